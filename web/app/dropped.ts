/** Files dropped anywhere on the page go to whoever waits for some, never to the browser, which would leave the page for them. */
type Taker = (files: readonly File[]) => void;

const takers: Taker[] = [];
let waiting: readonly File[] = [];

/** Takes what is dropped beside every box, until the answer is called; what was dropped before anyone waited comes at once. */
export function takeDropped(taker: Taker): () => void {
  takers.push(taker);
  if (waiting.length > 0) {
    const files = waiting;
    waiting = [];
    taker(files);
  }
  return () => {
    takers.splice(takers.indexOf(taker), 1);
  };
}

const allow = (event: DragEvent): void => {
  if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
};

/** Listens to the window. @param onNobody where the page has no use for files: they wait for the next that has */
export function watchDrops(onNobody: () => void): () => void {
  const drop = (event: DragEvent): void => {
    // A box that took them said so already.
    if (event.defaultPrevented || !event.dataTransfer?.types.includes("Files")) return;
    event.preventDefault();
    const files = [...event.dataTransfer.files];
    const taker = takers.at(-1);
    if (taker) return taker(files);
    waiting = files;
    onNobody();
  };
  window.addEventListener("dragover", allow);
  window.addEventListener("drop", drop);
  return () => {
    window.removeEventListener("dragover", allow);
    window.removeEventListener("drop", drop);
  };
}

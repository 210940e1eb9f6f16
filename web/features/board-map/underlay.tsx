import * as Comlink from "comlink";
import { useRef, useState } from "react";
import { API, type BoardMapView, urlOf } from "#contract";
import type { Point } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { CORNERS, PhotoCorners } from "../../parts/board/photo-corners.tsx";
import { Button } from "../../ui/button.tsx";
import { FileInput } from "../../ui/file-input.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { PadSession } from "../../workers/pad-session.ts";

export function UnderlayImage({ view: { underlay, map, boardModelId } }: { view: BoardMapView }) {
  if (!underlay) return null;
  return (
    <image
      href={`${urlOf(API.underlay, { boardId: boardModelId })}?${underlay.hash.slice(0, 8)}`}
      x={underlay.xMm - underlay.widthMm / 2}
      y={map.board.heightMm - underlay.yMm - underlay.heightMm / 2}
      width={underlay.widthMm}
      height={underlay.heightMm}
      preserveAspectRatio="none"
      opacity={0.55}
    />
  );
}

const PIXELS_PER_MM = 6;
const LONGEST_SIDE = 2400;

/** A slanted photo made straight: four corners of a rectangle whose size is known are marked, the rest follows. */
export function UnderlayPanel({ view }: { view: BoardMapView }) {
  const { board } = view.map;
  const [photo, setPhoto] = useState<{ url: string; bitmap: ImageBitmap } | null>(null);
  const [marks, setMarks] = useState<Point[]>([]);
  // What nobody typed follows the board, whose size may be changed while the photo waits.
  const [typed, setTyped] = useState<Partial<Record<"xMm" | "yMm" | "widthMm" | "heightMm", number>>>({});
  const place = {
    xMm: board.widthMm / 2,
    yMm: board.heightMm / 2,
    widthMm: board.widthMm,
    heightMm: board.heightMm,
    ...typed,
  };
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [keep, { error }] = api.useSetUnderlayMutation();
  const input = useRef<HTMLInputElement>(null);
  const open = async (file: File): Promise<void> => {
    try {
      const bitmap = await createImageBitmap(file);
      setPhoto({ url: URL.createObjectURL(file), bitmap });
      setMarks([]);
      setTyped({});
      setFailed(null);
    } catch {
      setFailed(`${file.name} is not a picture that can be read. Choose a JPEG, PNG, WebP or AVIF.`);
    }
  };
  const straighten = async (): Promise<void> => {
    if (!photo) return;
    setBusy(true);
    const answer = await straightened(photo.bitmap, marks, place);
    setBusy(false);
    if (typeof answer === "string") return setFailed(answer);
    const kept = await keep({ boardId: view.boardModelId, form: { photo: answer, place } });
    // Marks and photo stay until they are saved.
    if ("error" in kept) return;
    URL.revokeObjectURL(photo.url);
    setPhoto(null);
  };
  const takeAway = (): void => {
    const before = view.underlay;
    void withUndo("Photo taken away", (away) =>
      keep({ boardId: view.boardModelId, form: away || !before ? {} : { place: before } }),
    );
  };
  return (
    <Sheet title="Photo under the map">
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => input.current?.click()}>{view.underlay ? "Another photo" : "Choose a photo"}</Button>
        {view.underlay && (
          <Button look="quiet" onClick={takeAway}>
            Take the photo away
          </Button>
        )}
        <FileInput ref={input} accept="image/*" label="Photo of the board" onFile={(file) => void open(file)} />
      </div>
      {failed && <Note kind="fault" live title={failed} />}
      <FaultNote error={error} />
      {photo && (
        <div className="mt-3 space-y-3">
          <p aria-live="polite">
            {marks.length < 4 ? (
              <>
                Mark the <strong>{CORNERS[marks.length]}</strong> corner of a rectangle you know the size of: the board
                itself, or four screw holes. With the keyboard: arrow keys move a cross (Shift further, Alt finely),
                Enter marks.
              </>
            ) : (
              "All four corners are marked. Check the size, then straighten it."
            )}
          </p>
          <PhotoCorners photo={photo} marks={marks} onMark={(mark) => setMarks([...marks, mark])} />
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            {(
              [
                ["widthMm", "Its width", "mm"],
                ["heightMm", "Its height", "mm"],
                ["xMm", "Its centre x", "mm"],
                ["yMm", "Its centre y", "mm"],
              ] as const
            ).map(([key, label, unit]) => (
              <NumberField
                key={key}
                label={label}
                unit={unit}
                value={place[key]}
                least={key === "widthMm" || key === "heightMm" ? 1 : -500}
                most={1000}
                onValue={(value) => value !== null && setTyped({ ...typed, [key]: value })}
              />
            ))}
          </div>
          <div className="flex flex-wrap gap-2">
            <Button look="main" disabled={marks.length < 4 || busy} onClick={() => void straighten()}>
              {busy ? "Straightening…" : "Straighten and put it under the map"}
            </Button>
            <Button disabled={marks.length === 0} onClick={() => setMarks(marks.slice(0, -1))}>
              Take back the last mark
            </Button>
            <Button look="quiet" onClick={() => setPhoto(null)}>
              Cancel
            </Button>
          </div>
        </div>
      )}
    </Sheet>
  );
}

/** @returns the straight picture as JPEG, or why there is none */
async function straightened(
  bitmap: ImageBitmap,
  marks: readonly Point[],
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
): Promise<Blob | string> {
  const scale = Math.min(PIXELS_PER_MM, LONGEST_SIDE / Math.max(widthMm, heightMm));
  const out = { width: Math.round(widthMm * scale), height: Math.round(heightMm * scale) };
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext("2d");
  if (!context) return "This browser can’t read pictures.";
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const worker = new Worker(new URL("../../workers/pad-worker.ts", import.meta.url), { type: "module" });
  try {
    const session = Comlink.wrap<PadSession>(worker);
    const { width, height } = bitmap;
    const answer = await session.straighten(Comlink.transfer(data, [data.buffer]), width, height, [...marks], out);
    if ("problem" in answer) return `${answer.problem.what} ${answer.problem.remedy}`;
    const target = new OffscreenCanvas(out.width, out.height);
    target.getContext("2d")?.putImageData(new ImageData(answer.ok, out.width, out.height), 0, 0);
    return await target.convertToBlob({ type: "image/jpeg", quality: 0.85 });
  } finally {
    worker.terminate();
  }
}

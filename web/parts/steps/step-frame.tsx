import { ArrowLeft, Camera, Check, List, Shuffle, X } from "lucide-react";
import type { ReactNode } from "react";
import { Button } from "../../ui/button.tsx";
import type { StepHands } from "./use-step-mode.ts";

/** Where one is, how long hands took, and what is on its way. */
export function StepHeader({
  title,
  count,
  unsaved,
  hands: { step, at, time, listed, setListed },
  onClose,
}: {
  title: string;
  count: number;
  unsaved: number;
  hands: StepHands;
  onClose: () => void;
}) {
  return (
    <>
      <header className="flex items-center gap-3 border-b border-line bg-sheet px-3 py-2 sm:px-5">
        <div className="min-w-0 flex-1">
          <p className="truncate text-sm text-soft">{title}</p>
          <p className="truncate font-semibold">
            {step ? `${step.group} · ${at + 1} of ${count}` : `All ${count} steps done`}
          </p>
        </div>
        <p className="text-right text-sm text-soft">
          <span className="block">{Math.round(time.minutes)} min</span>
          <span role="status">{unsaved > 0 ? `${unsaved} waiting` : "saved"}</span>
        </p>
        <Button look="quiet" aria-pressed={listed} onClick={() => setListed(!listed)}>
          <List aria-hidden className="size-5" />
          <span className="max-sm:sr-only">{listed ? "One at a time" : "All steps"}</span>
        </Button>
        <Button look="quiet" onClick={onClose}>
          <X aria-hidden className="size-5" />
          <span className="max-sm:sr-only">Close</span>
        </Button>
      </header>
      <div
        role="progressbar"
        aria-label="Steps done"
        aria-valuemin={0}
        aria-valuemax={count}
        aria-valuenow={at}
        className="h-1.5 bg-line"
      >
        <div className="h-full bg-ice" style={{ width: `${(100 * at) / Math.max(1, count)}%` }} />
      </div>
    </>
  );
}

/** What hands press: large enough for a glove. */
export function StepFooter({ hands, isWaiting }: { hands: StepHands; isWaiting: boolean }) {
  const { step, at, usual, photo, listed } = hands;
  const isChosenFirst = step !== undefined && step.choices.length > 0 && usual === undefined;
  return (
    <footer className="grid grid-cols-[auto_auto_auto_minmax(0,1fr)] gap-2 border-t border-line bg-sheet p-2 sm:px-5 sm:py-3">
      <BigButton label="Back" hint="⌫" onPress={hands.back} disabled={at === 0}>
        <ArrowLeft aria-hidden className="size-6" />
      </BigButton>
      <BigButton label="Different" hint="x" onPress={hands.openOdd} disabled={!step || listed}>
        <Shuffle aria-hidden className="size-6" />
      </BigButton>
      <BigButton
        label={photo.busy ? "Keeping…" : "Photo"}
        hint="p"
        onPress={photo.open}
        disabled={!step || photo.busy}
        marked={step?.photo === true}
      >
        <Camera aria-hidden className="size-6" />
      </BigButton>
      <button
        type="button"
        className="flex min-h-18 items-center justify-center gap-3 rounded-xl bg-ice px-2 text-2xl font-bold whitespace-nowrap text-on-ice hover:bg-ice-deep disabled:opacity-55"
        disabled={!step || listed || isWaiting || isChosenFirst}
        onClick={() => {
          hands.go();
          hands.focus();
        }}
      >
        <Check aria-hidden className="size-7 max-sm:hidden" />
        Done
        <kbd className="rounded border border-current px-2 text-sm font-medium max-sm:hidden">space</kbd>
      </button>
    </footer>
  );
}

function BigButton({
  label,
  hint,
  onPress,
  disabled,
  marked = false,
  children,
}: {
  label: string;
  hint: string;
  onPress: () => void;
  disabled: boolean;
  marked?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      disabled={disabled}
      className={`flex min-h-18 min-w-14 flex-col items-center justify-center rounded-xl border bg-sheet px-1.5 text-sm font-semibold hover:border-ice disabled:opacity-55 sm:min-w-28 ${marked ? "border-2 border-ice text-ice" : "border-edge"}`}
      onClick={onPress}
    >
      {children}
      <span>
        {label}
        <kbd className="ml-1 text-soft max-sm:hidden">{hint}</kbd>
      </span>
    </button>
  );
}

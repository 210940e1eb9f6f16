import { useRef, useState } from "react";
import type { Box, Point } from "#core/boardmap/index.ts";
import type { Imprint } from "#core/imprint/index.ts";
import { CORNERS, type OpenPhoto, PhotoCorners } from "../../parts/board/photo-corners.tsx";
import { Button } from "../../ui/button.tsx";
import { FileInput } from "../../ui/file-input.tsx";
import { Note } from "../../ui/note.tsx";
import type { RemotePads } from "../../workers/use-pad-session.ts";

/** Of the straight picture of the die, pixels along. */
const WIDE_PX = 240;

/** A photo of die or plate proposes the imprint: four corners are marked, colours told apart in a worker; tapping corrects it. */
export function ImprintPhoto({
  remote,
  die,
  onCells,
}: {
  remote: RemotePads | null;
  die: Box;
  onCells: (cells: Imprint) => void;
}) {
  const [photo, setPhoto] = useState<OpenPhoto | null>(null);
  const [marks, setMarks] = useState<Point[]>([]);
  const [failed, setFailed] = useState("");
  const [swapped, setSwapped] = useState(false);
  const [isPlate, setIsPlate] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const open = async (file: File): Promise<void> => {
    try {
      const bitmap = await createImageBitmap(file);
      setPhoto({ url: URL.createObjectURL(file), bitmap });
      setMarks([]);
      setFailed("");
    } catch {
      setFailed(`${file.name} is not a picture that can be read. Choose a JPEG, PNG, WebP or AVIF.`);
    }
  };
  const propose = async (corners: readonly Point[], swap: boolean, plate: boolean): Promise<void> => {
    if (!photo || !remote) return;
    const answer = await proposed(remote, photo.bitmap, corners, die, swap, plate);
    if (typeof answer === "string") setFailed(answer);
    else onCells(answer);
  };
  return (
    <div className="space-y-2">
      <Button onClick={() => input.current?.click()}>{photo ? "Another photo" : "Propose it from a photo"}</Button>
      <FileInput ref={input} accept="image/*" label="Photo of die or plate" onFile={(file) => void open(file)} />
      {failed && <Note kind="fault" live title={failed} />}
      {photo && (
        <>
          <p aria-live="polite">
            {marks.length < CORNERS.length ? (
              <>
                Mark the <strong>{CORNERS[marks.length]}</strong> corner of the die’s print.
              </>
            ) : (
              "A proposal: correct it by tapping cells."
            )}
          </p>
          <PhotoCorners
            photo={photo}
            marks={marks}
            onMark={(mark) => {
              const next = [...marks, mark];
              setMarks(next);
              if (next.length === CORNERS.length) void propose(next, swapped, isPlate);
            }}
          />
          <div className="flex flex-wrap gap-2">
            <Button
              disabled={marks.length < CORNERS.length}
              onClick={() => {
                setSwapped(!swapped);
                void propose(marks, !swapped, isPlate);
              }}
            >
              Swap compound and bare
            </Button>
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-[var(--ice)]"
                checked={isPlate}
                onChange={(event) => {
                  setIsPlate(event.target.checked);
                  if (marks.length === CORNERS.length) void propose(marks, swapped, event.target.checked);
                }}
              />
              It shows the plate, not the die
            </label>
            <Button look="quiet" disabled={marks.length === 0} onClick={() => setMarks([])}>
              Mark again
            </Button>
          </div>
        </>
      )}
    </div>
  );
}

/** @returns the proposal, or why there is none */
async function proposed(
  remote: RemotePads,
  bitmap: ImageBitmap,
  corners: readonly Point[],
  die: Box,
  swapped: boolean,
  isPlate: boolean,
): Promise<Imprint | string> {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext("2d");
  if (!context) return "This browser can’t read pictures.";
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const out = { width: WIDE_PX, height: Math.round((WIDE_PX * die.heightMm) / die.widthMm) };
  const straight = await remote.straighten(data, bitmap.width, bitmap.height, [...corners], out);
  if ("problem" in straight) return `${straight.problem.what} ${straight.problem.remedy}`;
  const cells = await remote.imprint(straight.ok, out.width, out.height, swapped);
  // The plate lies face up where the die looks at it: what is right on it is left on the die.
  return isPlate ? mirrored(cells) : cells;
}

function mirrored(cells: Imprint): Imprint {
  const side = Math.sqrt(cells.length);
  return cells.map((_, index) => {
    const [column, row] = [index % side, Math.floor(index / side)];
    return cells[row * side + (side - 1 - column)] ?? "covered";
  });
}

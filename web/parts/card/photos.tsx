import { Camera, Trash2 } from "lucide-react";
import { useState } from "react";
import { API, type Photo, urlOf } from "#contract";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { FileDrop } from "../../ui/file-drop.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

/** What loggers write. */
const LOG = /\.(csv|tsv|txt|log|json|ndjson)$/i;

/** Photos of a card, by camera or file; the place they were taken at is not kept. */
export function Photos({ cardId, photos }: { cardId: string; photos: Photo[] }) {
  const [add, { isLoading }] = api.useAddPhotoMutation();
  const [remove] = api.useRemovePhotoMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const addAll = async (files: readonly File[]): Promise<void> => {
    setFault(null);
    for (const file of files) {
      if (LOG.test(file.name)) {
        setFault({
          code: "not-a-picture",
          what: `${file.name} is a log, not a photo.`,
          remedy: "Drop it at Baseline or Prove, where runs are kept. Nothing was changed.",
          errors: {},
        });
        continue;
      }
      const answer = await add({ cardId, form: { photo: file } });
      if ("error" in answer) {
        const found = faultOf(answer.error);
        setFault(found && { ...found, what: `${file.name}: ${found.what}` });
      }
    }
  };
  return (
    <Sheet title="Photos">
      <div className="flex flex-wrap gap-3">
        {photos.map((photo, index) => (
          <figure key={photo.id} className="relative">
            <a href={urlOf(API.photo, { photoId: photo.id })} target="_blank" rel="noreferrer">
              <img
                src={urlOf(API.photo, { photoId: photo.id })}
                alt={photo.caption || `Photo ${index + 1}`}
                width={photo.width}
                height={photo.height}
                className="h-36 w-auto rounded-lg border border-line"
              />
            </a>
            <button
              type="button"
              aria-label={`Remove photo ${index + 1}`}
              className="absolute top-1 right-1 flex size-9 items-center justify-center rounded-md border border-edge bg-sheet hover:text-danger"
              onClick={() =>
                void withUndo("Photo removed", (removed) => remove({ cardId, photoId: photo.id, body: { removed } }))
              }
            >
              <Trash2 aria-hidden className="size-4" />
            </button>
          </figure>
        ))}
        <FileDrop
          accept="image/*"
          multiple
          className="h-36 w-44 gap-2 border text-sm"
          onFiles={(files) => void addAll(files)}
        >
          <Camera aria-hidden className="size-6" />
          {isLoading ? "Keeping the photo…" : "Take or choose photos"}
        </FileDrop>
      </div>
      <div className="mt-3">
        <FaultNote fault={fault} />
      </div>
    </Sheet>
  );
}

import { useRef, useState } from "react";
import type { HandStep } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { Button } from "../../ui/button.tsx";
import { FileInput } from "../../ui/file-input.tsx";
import { FaultNote } from "../../ui/note.tsx";
import type { Marks } from "./use-marks.ts";

/** A photo for the step: taken or chosen; one that can't be kept now waits to be sent again. */
export function useStepPhoto(cardId: string, step: HandStep | undefined, mark: Marks["mark"]) {
  const [add, { isLoading }] = api.useAddPhotoMutation();
  const [fault, setFault] = useState<{ fault: Fault; file: File; of: HandStep } | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  /** @param of the step it was taken at, which may be done by the time it is sent again */
  const take = (file: File | undefined, of = step): void => {
    if (!file || !of) return;
    setFault(null);
    const caption = `${of.group}: ${of.text}`.slice(0, 200);
    void add({ cardId, form: { photo: file, caption } }).then((answer) => {
      const found = faultOf(answer.error);
      if (found) return setFault({ fault: found, file, of });
      return mark({ stepId: of.id, what: "photo", value: file.name.slice(0, 200) });
    });
  };
  return {
    busy: isLoading,
    open: () => chooser.current?.click(),
    take,
    input: <FileInput ref={chooser} accept="image/*" camera label="Photo of this step" onFile={(file) => take(file)} />,
    note: fault && (
      <FaultNote fault={fault.fault}>
        <Button className="mt-2" onClick={() => take(fault.file, fault.of)}>
          Send the photo again
        </Button>
      </FaultNote>
    ),
  };
}

import { useEffect, useEffectEvent } from "react";
import { toast } from "sonner";
import { storedElsewhere } from "./stored.ts";
import { lookAtWindows } from "./windows.ts";

/** Says once that a form is being typed into in another window too, and takes what stands there where that is wanted. */
export function useElsewhere(form: string, onTake: (value: unknown) => void): void {
  const taken = useEffectEvent(onTake);
  useEffect(() => {
    let gone = false;
    let note: number | string | undefined;
    void lookAtWindows().then(() => {
      const found = storedElsewhere(form);
      if (gone || !found) return;
      note = toast("Another window holds something typed here that is not saved", {
        description: "The two stay apart: what is typed here does not change what is typed there.",
        duration: Number.POSITIVE_INFINITY,
        closeButton: true,
        action: {
          label: "Take it over",
          onClick: () => {
            found.take();
            taken(found.value);
          },
        },
      });
    });
    return () => {
      gone = true;
      if (note !== undefined) toast.dismiss(note);
    };
  }, [form]);
}

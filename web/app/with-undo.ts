import { toast } from "sonner";
import { faultOf } from "./fault.ts";

/**
 * Does something and says so with a way back, or says what stood in the way.
 * @param words what is said once it is done
 * @param act does it, or with false takes it back; a mutation's promise
 * @returns whether it was done
 */
export async function withUndo(
  words: string,
  act: (forth: boolean) => PromiseLike<{ error?: unknown }>,
): Promise<boolean> {
  const tell = async (forth: boolean): Promise<boolean> => {
    const fault = faultOf((await act(forth)).error);
    if (fault)
      toast.error(`Not done: ${fault.what}`, { description: fault.code === "unreachable" ? "" : fault.remedy });
    else if (forth) toast(words, { action: { label: "Undo", onClick: () => void tell(false) } });
    return !fault;
  };
  return tell(true);
}

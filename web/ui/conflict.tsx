import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "./button.tsx";

/** Two windows changed the same thing: the second one decides. */
export function ConflictDialog({
  open,
  what,
  onTakeOver,
  onKeep,
}: {
  open: boolean;
  what: string;
  onTakeOver: () => void;
  onKeep: () => void;
}) {
  return (
    <Dialog open={open} onClose={onKeep} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-md space-y-4 rounded-xl bg-sheet p-6 shadow-xl">
          <DialogTitle className="text-lg font-bold">This {what} was changed in another window</DialogTitle>
          <p>Your change is not saved yet. Keep what the other window saved, or take over with what you typed here.</p>
          <div className="flex flex-wrap justify-end gap-2">
            <Button onClick={onKeep}>Keep the other change</Button>
            <Button look="main" onClick={onTakeOver}>
              Take over with mine
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

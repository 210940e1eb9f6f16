import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { KEYS } from "../app/keys.ts";
import { Button } from "../ui/button.tsx";

/** All keys of the application; loaded when it is first asked for. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-lg space-y-4 rounded-xl bg-sheet p-6 shadow-xl">
          <DialogTitle className="text-lg font-bold">Keys</DialogTitle>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-2">
            {KEYS.map(([keys, meaning]) => (
              <div key={keys} className="contents">
                <dt className="font-semibold">{keys}</dt>
                <dd>{meaning}</dd>
              </div>
            ))}
          </dl>
          <div className="text-right">
            <Button onClick={onClose}>Close</Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

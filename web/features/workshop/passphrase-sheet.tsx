import { useState } from "react";
import { toast } from "sonner";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { Button } from "../../ui/button.tsx";
import { PassphraseField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

/** The passphrase for other devices, and the way out of this one's session. */
export function PassphraseSheet() {
  const { data } = api.usePassphraseQuery();
  const { data: session } = api.useSessionQuery();
  const [set, { error, isLoading }] = api.useSetPassphraseMutation();
  const [signOut, { isLoading: isLeaving, error: stays }] = api.useSignOutMutation();
  const [current, setCurrent] = useState("");
  const [text, setText] = useState("");
  const fault = faultOf(error);
  return (
    <Sheet
      title="Passphrase"
      action={
        session?.signedIn && (
          <Button disabled={isLeaving} onClick={() => void signOut()}>
            Sign out
          </Button>
        )
      }
    >
      <p className="mb-3 text-sm text-soft">
        This application answers on this machine only. To use it from a tablet, set a passphrase, then start it with
        ALGIDUS_HOST. {data?.set ? "One is set." : "None is set yet."}
      </p>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void set({ passphrase: text, ...(data?.set ? { current } : {}) }).then((answer) => {
            if ("error" in answer) return;
            setText("");
            setCurrent("");
            toast("Saved. Every other device has to sign in again.");
          });
        }}
      >
        {data?.set && (
          <PassphraseField label="Passphrase until now" which="current" value={current} onValue={setCurrent} />
        )}
        <PassphraseField
          label="New passphrase"
          which="new"
          value={text}
          onValue={setText}
          hint="Ten characters or more"
          error={fault?.errors.passphrase}
        />
        {fault && !fault.errors.passphrase && <FaultNote fault={fault} />}
        <FaultNote error={stays} />
        <Button type="submit" disabled={isLoading || text.length < 10 || (data?.set && current === "")}>
          {data?.set ? "Change passphrase" : "Set passphrase"}
        </Button>
      </form>
    </Sheet>
  );
}

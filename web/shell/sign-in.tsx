import { useState } from "react";
import { api } from "../app/api.ts";
import { Button } from "../ui/button.tsx";
import { PassphraseField } from "../ui/field.tsx";
import { FaultNote } from "../ui/note.tsx";
import { Page, Sheet } from "../ui/page.tsx";

export function SignIn() {
  const [passphrase, setPassphrase] = useState("");
  const [signIn, { error, isLoading }] = api.useSignInMutation();
  return (
    <Page title="Sign in">
      <Sheet className="max-w-md">
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            void signIn({ passphrase });
          }}
        >
          <PassphraseField
            label="Passphrase of the workshop"
            which="current"
            value={passphrase}
            onValue={setPassphrase}
          />
          <FaultNote error={error} />
          <Button look="main" type="submit" disabled={isLoading}>
            Sign in
          </Button>
        </form>
      </Sheet>
    </Page>
  );
}

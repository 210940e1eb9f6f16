import { Navigate, useParams } from "react-router";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { LinkButton } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";

/** Where the code of a label leads: to its card. */
export function ScannedPage() {
  const { cardId = "" } = useParams();
  const { data, error } = api.useCardQuery(cardId);
  if (data) return <Navigate replace to={`/cards/${cardId}`} />;
  const isUnknown = faultOf(error)?.code === "not-found";
  return (
    <Page title="Label">
      {!error && <Waiting what="the card" />}
      {isUnknown ? (
        <>
          <Note kind="caution" title="No card here has this label">
            It may be of another workshop, or of a computer whose data is not on this one. Nothing was changed.
          </Note>
          <div className="mt-3">
            <LinkButton to="/cards">Find the card by its serial number</LinkButton>
          </div>
        </>
      ) : (
        <FaultNote error={error} />
      )}
    </Page>
  );
}

import { useNavigate } from "react-router";
import { EMPTY_CARD } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useAppDispatch } from "../../app/store.ts";
import { Page } from "../../ui/page.tsx";
import { CardForm } from "../card/card-form.tsx";

const DRAFT = "take-in";

export function TakeInPage() {
  const [takeIn, { error, isLoading }] = api.useTakeInMutation();
  const go = useNavigate();
  const dispatch = useAppDispatch();
  return (
    <Page title="Take in a card" lead="Only maker and model are needed now; the rest can follow.">
      <CardForm
        form={DRAFT}
        start={EMPTY_CARD}
        saveLabel="Take in"
        busy={isLoading}
        fault={faultOf(error)}
        onSave={(card) =>
          void takeIn(card).then((answer) => {
            if (!answer.data) return undefined;
            dispatch(dropDraft(DRAFT));
            return go(`/cards/${answer.data.id}/take-in`);
          })
        }
      />
    </Page>
  );
}

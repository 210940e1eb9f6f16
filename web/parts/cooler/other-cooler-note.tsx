import { Link } from "react-router";
import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import { fittedOf } from "./fitted.ts";
import { fitHeadline, lostContacts } from "./words.ts";

/** Another cooler in one line, wherever the work depends on it; nothing while the original goes back. */
export function OtherCoolerNote({
  serviceId,
  cardId,
  wanted = false,
}: {
  serviceId: string;
  cardId: string;
  /** Another cooler was decided on: one has to be chosen. */
  wanted?: boolean;
}) {
  const { data: job } = api.useCoolerJobQuery(serviceId);
  if (job && !job.cooler && wanted)
    return (
      <Note title="Another cooler goes on: which one?">
        <LinkButton className="mt-2" look="main" to={`/cards/${cardId}/cooler`}>
          Choose it and see whether it goes on
        </LinkButton>
      </Note>
    );
  if (!job?.cooler) return null;
  const answer = fittedOf(job);
  const fits = answer !== null && "ok" in answer && answer.ok.fit.fits && lostContacts(answer.ok) === "";
  return (
    <Note kind={fits ? "info" : "caution"} title={`${job.cooler.name}: ${fitHeadline(answer)}`}>
      Its gaps and screws follow from its drawing.{" "}
      <Link className="font-semibold text-ice underline" to={`/cards/${cardId}/cooler`}>
        Its page
      </Link>
    </Note>
  );
}

import { Link } from "react-router";
import { api } from "../../app/api.ts";
import { day } from "../../ui/format.ts";

/** Cards whose month has come: their owners may want to hear of it. */
export function Due() {
  const { data: due = [] } = api.useDueQuery();
  if (due.length === 0) return null;
  return (
    <section aria-label="Due for service" className="mt-6">
      <h2 className="mb-2 text-lg font-semibold">Due for service</h2>
      <ul className="divide-y divide-line rounded-xl border border-line bg-sheet px-4">
        {due.map(({ cardId, name, serial, ownerName, dueOn }) => (
          <li key={cardId} className="flex flex-wrap items-center justify-between gap-x-3 py-1">
            <Link
              to={`/cards/${cardId}/record`}
              className="min-h-11 content-center font-semibold text-ice hover:underline"
            >
              {name} {serial}
            </Link>
            <span className="text-sm text-soft">
              {ownerName || "stock"} · due since {day(dueOn)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

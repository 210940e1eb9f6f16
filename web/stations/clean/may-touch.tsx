import {
  CLEANERS,
  type Cleaner,
  type CleaningSchool,
  cleanerOn,
  type Dirt,
  SURFACES,
  type Surface,
} from "#core/cleaning/index.ts";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";

const WORDS = { refused: "✕ never", degree: "△ with care", fine: "✓" } as const;
const TABLE = Object.keys(CLEANERS).filter((one) => one !== "air" && one !== "brush") as Cleaner[];
const ROWS = Object.keys(SURFACES) as Surface[];

/** What a cleaner may touch, and why not. */
export function MayTouch({ dirt, school }: { dirt: Dirt; school: CleaningSchool }) {
  const against = TABLE.flatMap((cleaner) =>
    ROWS.flatMap((surface) => {
      const found = cleanerOn(cleaner, surface);
      return found.verdict === "fine" ? [] : [{ cleaner, surface, ...found }];
    }),
  );
  return (
    <Sheet title="What may touch what">
      <p className="mb-2 text-sm text-soft">
        {school === "wash" ? "Washed parts rest by their clock. " : ""}
        {dirt === "corrosion" ? "Corrosion goes on while its salts are there: look again after cleaning." : ""}
      </p>
      <div className="overflow-x-auto" role="region" aria-label="What may touch what" tabIndex={0}>
        <table className="w-full text-left text-sm">
          <thead>
            <tr>
              <th scope="col" className="py-1 pr-2 font-medium">
                On
              </th>
              {TABLE.map((cleaner) => (
                <th key={cleaner} scope="col" className="px-1 py-1 font-medium">
                  {CLEANERS[cleaner]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ROWS.map((surface) => (
              <tr key={surface} className="border-t border-line">
                <th scope="row" className="py-1 pr-2 font-normal">
                  {SURFACES[surface]}
                </th>
                {TABLE.map((cleaner) => {
                  const { verdict } = cleanerOn(cleaner, surface);
                  return (
                    <td
                      key={cleaner}
                      className={`px-1 py-1 whitespace-nowrap ${verdict === "refused" ? "font-semibold text-danger" : ""}`}
                    >
                      {WORDS[verdict]}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Working title="Why, and where that is from">
        <ul className="space-y-1">
          {against.map(({ cleaner, surface, why, source }) => (
            <li key={`${cleaner} ${surface}`}>
              <strong>
                {CLEANERS[cleaner]} on {SURFACES[surface]}
              </strong>
              : {why} <span className="text-soft">({source})</span>
            </li>
          ))}
        </ul>
      </Working>
    </Sheet>
  );
}

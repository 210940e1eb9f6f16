import QRCode from "qrcode";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { PAPER_MM, type Paper, usePaper } from "../../ui/paper.ts";

/** Labels of common sizes, mm; a sheet holds as many as its paper does. */
const SIZES = [
  { id: "tag", label: "62 × 29 mm, one by one", widthMm: 62, heightMm: 29, sheet: false },
  { id: "sheet-70x37", label: "Sheet of 70 × 37 mm", widthMm: 70, heightMm: 37, sheet: true },
  { id: "sheet-63x38", label: "Sheet of 63.5 × 38.1 mm", widthMm: 63.5, heightMm: 38.1, sheet: true },
  { id: "sheet-48x25", label: "Sheet of 48.5 × 25.4 mm", widthMm: 48.5, heightMm: 25.4, sheet: true },
] as const;
const PAPERS = [
  { value: "A4", label: "A4" },
  { value: "letter", label: "Letter" },
] as const;
const MOST = 200;

/** Labels with a code for card or bag, at true size; what is scanned opens the card. */
export function LabelsPage() {
  const [asked] = useSearchParams();
  const wanted = (asked.get("cards") ?? "").split(",").filter(Boolean);
  const { data, error } = api.useLinesInfiniteQuery({ find: "", closed: undefined, limit: MOST });
  const { data: settings } = api.useSettingsQuery();
  const [sizeId, setSizeId] = useState<string>("tag");
  const [paper, setPaper] = useState<Paper>("A4");
  const [skip, setSkip] = useState("0");
  const [base, setBase] = useState(location.origin);
  // A card that came back has a line for each service.
  const lines = [
    ...new Map((data?.pages.flatMap((page) => page.lines) ?? []).map((line) => [line.cardId, line])).values(),
  ];
  const [chosen, setChosen] = useState<readonly string[]>(wanted);
  const size = SIZES.find((one) => one.id === sizeId) ?? SIZES[0];
  const [longMm, shortMm] = PAPER_MM[paper];
  const columns = size.sheet ? Math.max(1, Math.floor(shortMm / size.widthMm)) : 1;
  const rows = Math.max(1, Math.floor(longMm / size.heightMm));
  // Labels lie in the middle of the sheet, as it comes from its maker.
  const padMm = size.sheet
    ? { x: (shortMm - columns * size.widthMm) / 2, y: (longMm - rows * size.heightMm) / 2 }
    : { x: 0, y: 0 };
  usePaper(paper, { marginMm: 0 });
  const gone = Math.min(columns * rows - 1, Math.max(0, Math.floor(Number(skip)) || 0));
  return (
    <Page
      title="Labels"
      lead="For the card or its bag: scanned, the code opens the card"
      action={
        <Button look="main" disabled={chosen.length === 0} onClick={() => print()}>
          Print
        </Button>
      }
    >
      <FaultNote error={error} />
      <div className="no-print mb-4 grid items-start gap-4 lg:grid-cols-2">
        <Sheet title="Which cards">
          {!data && !error && <Waiting what="the cards" />}
          <ul className="max-h-64 overflow-y-auto">
            {lines.map(({ cardId, maker, model, serial }) => (
              <li key={cardId}>
                <label className="flex min-h-9 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5"
                    checked={chosen.includes(cardId)}
                    onChange={() =>
                      setChosen(chosen.includes(cardId) ? chosen.filter((id) => id !== cardId) : [...chosen, cardId])
                    }
                  />
                  {maker} {model} {serial}
                </label>
              </li>
            ))}
          </ul>
        </Sheet>
        <Sheet title="On what">
          <div className="space-y-3">
            <SelectField label="Label" value={sizeId} onChange={({ target }) => setSizeId(target.value)}>
              {SIZES.map(({ id, label }) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </SelectField>
            <Choice label="Paper" value={paper} options={PAPERS} onChange={setPaper} />
            {size.sheet && (
              <TextField
                label="Labels already used on the sheet"
                inputMode="numeric"
                value={skip}
                onChange={({ target }) => setSkip(target.value)}
              />
            )}
            <TextField
              label="Address in the code"
              hint="As phones in the workshop reach this computer"
              value={base}
              onChange={({ target }) => setBase(target.value)}
            />
            {/^https?:\/\/(localhost|127\.)/.test(base) && (
              <Note title="Only this computer can open that address">
                A phone needs the one it signs in with; a hand scanner at this computer works as it is.
              </Note>
            )}
          </div>
        </Sheet>
      </div>
      <div className="no-print mb-3">
        <Note title="Print at 100 %, without “fit to page”">
          Hold the first print against the sheet of labels: each is {size.widthMm} × {size.heightMm} mm.
        </Note>
      </div>
      {chosen.length === 0 ? (
        <p className="text-soft">Choose a card.</p>
      ) : (
        <div
          className="labels-sheet bg-white text-black"
          style={{
            display: "grid",
            gridTemplateColumns: `repeat(${columns}, ${size.widthMm}mm)`,
            gridAutoRows: `${size.heightMm}mm`,
            padding: `${padMm.y}mm ${padMm.x}mm`,
            width: size.sheet ? `${shortMm}mm` : "fit-content",
          }}
        >
          {size.sheet && Array.from({ length: gone }, (_, at) => <span key={`used ${at}`} />)}
          {chosen.map((cardId) => (
            <Label key={cardId} cardId={cardId} base={base} workshop={settings?.workshop ?? ""} size={size} />
          ))}
        </div>
      )}
    </Page>
  );
}

function Label({
  cardId,
  base,
  workshop,
  size: { widthMm, heightMm },
}: {
  cardId: string;
  base: string;
  workshop: string;
  size: { widthMm: number; heightMm: number };
}) {
  const { data: card, error } = api.useCardQuery(cardId);
  const [code, setCode] = useState("");
  const address = `${base.replace(/\/+$/, "")}/c/${cardId}`;
  useEffect(() => {
    let current = true;
    void QRCode.toString(address, { type: "svg", margin: 2, errorCorrectionLevel: "M" }).then((svg) => {
      if (current) setCode(`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`);
    });
    return () => {
      current = false;
    };
  }, [address]);
  if (error) return <FaultNote error={error} />;
  if (!card) return <span />;
  const { maker, model, serial, holder, ownerName } = card;
  const sideMm = Math.min(heightMm - 3, widthMm * 0.42);
  return (
    <section
      aria-label={`Label of ${maker} ${model} ${serial}`}
      className="flex items-center gap-[1.5mm] overflow-hidden p-[1.5mm] outline-1 outline-gray-300 outline-dashed -outline-offset-1 print:outline-none"
      style={{ width: `${widthMm}mm`, height: `${heightMm}mm` }}
    >
      {code && (
        <img
          src={code}
          alt={`Code of ${address}`}
          className="shrink-0"
          style={{ width: `${sideMm}mm`, height: `${sideMm}mm` }}
        />
      )}
      <div className="min-w-0 text-[2.6mm] leading-tight">
        <p className="line-clamp-2 text-[3.4mm] font-bold break-words">
          {maker} {model}
        </p>
        <p className="break-all">{serial || "no serial"}</p>
        <p className="truncate">{holder === "stock" ? "stock" : ownerName}</p>
        <p className="truncate">{workshop}</p>
      </div>
    </section>
  );
}

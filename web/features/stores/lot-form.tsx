import { useState } from "react";
import { toast } from "sonner";
import * as v from "valibot";
import { type Lot, LotInput, type Material, type Offer, OfferInput, STOCK_UNIT } from "#contract";
import { parseAmount, parseLengthMm } from "#core/units/length.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";

const SHEETS = ["pad", "phase-change"];

/** A lot of the stock or a line of the price list; sizes and amounts in whatever unit is at hand. */
export function LotForm({
  material,
  lot,
  offer,
  onDone,
}: {
  material: Material;
  lot?: Lot;
  /** A price in place of a lot: the one to change, or a new one. */
  offer?: Offer | "new";
  onDone: () => void;
}) {
  const unit = STOCK_UNIT[material.kind];
  const sheets = SHEETS.includes(material.kind);
  const known = lot ?? (offer === "new" ? undefined : offer);
  const [text, setText] = useState({
    thicknessMm: String(known?.thicknessMm ?? ""),
    widthMm: String(known?.widthMm ?? ""),
    heightMm: String(known?.heightMm ?? ""),
    amount: String(lot?.amount ?? ""),
    price: String(known?.price ?? ""),
    label: known?.label ?? "",
    openedOn: lot?.openedOn ?? "",
    useBefore: lot?.useBefore ?? "",
  });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [addLot, adding] = api.useAddLotMutation();
  const [changeLot, changing] = api.useChangeLotMutation();
  const [addOffer, offering] = api.useAddOfferMutation();
  const [changeOffer, repricing] = api.useChangeOfferMutation();
  const save = async (): Promise<void> => {
    const wrong: Record<string, string> = {};
    const length = (name: "thicknessMm" | "widthMm" | "heightMm"): number | null => {
      const found = parseLengthMm(text[name]);
      if (sheets && found === undefined) wrong[name] = "Type a length, such as 85 or 3.5 in.";
      return found ?? null;
    };
    const amount = parseAmount(text.amount, unit, material.densityGPerMl);
    if (!offer && amount === undefined)
      wrong.amount = /[a-z]/i.test(text.amount)
        ? "This unit needs the material’s density."
        : `Type how many ${unit === "piece" || unit === "sheet" ? `${unit}s` : unit}.`;
    const body = {
      materialId: material.id,
      thicknessMm: length("thicknessMm"),
      widthMm: length("widthMm"),
      heightMm: length("heightMm"),
      price: Number(text.price.replace(",", ".") || 0),
      label: text.label,
      amount: amount ?? 0,
      openedOn: text.openedOn || null,
      useBefore: text.useBefore || null,
    };
    const found = v.safeParse(offer ? OfferInput : LotInput, body);
    if (!found.success) for (const issue of found.issues) wrong[v.getDotPath(issue) ?? "label"] ??= issue.message;
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return;
    const answer = offer
      ? offer === "new"
        ? await addOffer(body)
        : await changeOffer({ id: offer.id, body: { ...body, version: offer.version } })
      : lot
        ? await changeLot({ id: lot.id, body: { ...body, version: lot.version } })
        : await addLot(body);
    if ("error" in answer) return;
    toast("Saved");
    onDone();
  };
  const field = (name: keyof typeof text, label: string, type = "text") => (
    <TextField
      key={name}
      label={label}
      type={type}
      value={text[name]}
      error={errors[name]}
      inputMode={type === "text" && name !== "label" ? "decimal" : undefined}
      onChange={(event) => setText({ ...text, [name]: event.target.value })}
    />
  );
  return (
    <form
      noValidate
      className="mt-2 rounded-lg border border-line bg-paper p-3"
      aria-label={offer ? `Price of ${material.name}` : `Lot of ${material.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
        {sheets && [
          field("thicknessMm", "Thickness (mm)"),
          field("widthMm", "Sheet width (mm)"),
          field("heightMm", "Sheet height (mm)"),
        ]}
        {!offer && field("amount", `Amount (${unit})`)}
        {field("price", `Price per ${unit}`)}
        {field("label", offer ? "Where from, order number" : "Label")}
        {!offer && field("openedOn", "Opened on", "date")}
        {!offer && field("useBefore", "Use before", "date")}
      </div>
      <FaultNote error={adding.error ?? changing.error ?? offering.error ?? repricing.error} />
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onDone}>Leave it</Button>
        <Button
          look="main"
          type="submit"
          disabled={[adding, changing, offering, repricing].some((one) => one.isLoading)}
        >
          {offer ? "Save the price" : "Save the lot"}
        </Button>
      </div>
    </form>
  );
}

import { toast } from "sonner";
import * as v from "valibot";
import { type Lot, LotInput, type Material, type Offer, OfferInput, STOCK_UNIT } from "#contract";
import { parseAmount, readQuantity } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";

const SHEETS = ["pad", "phase-change"];
const LENGTHS = ["thicknessMm", "widthMm", "heightMm"] as const;

const LotText = v.object({
  thicknessMm: v.string(),
  widthMm: v.string(),
  heightMm: v.string(),
  amount: v.string(),
  price: v.string(),
  label: v.string(),
  openedOn: v.string(),
  useBefore: v.string(),
  leadDays: v.string(),
  orderedOn: v.string(),
});
type LotText = v.InferOutput<typeof LotText>;
/** Either of the two: what it does not have is left out when it is kept. */
type Typed = LotInput & Pick<Offer, "leadDays" | "orderedOn">;

const textOf = (known: Lot | Offer | undefined): LotText => {
  const lot = known && "amount" in known ? known : undefined;
  const offer = known && "leadDays" in known ? known : undefined;
  return {
    thicknessMm: String(known?.thicknessMm ?? ""),
    widthMm: String(known?.widthMm ?? ""),
    heightMm: String(known?.heightMm ?? ""),
    amount: String(lot?.amount ?? ""),
    price: String(known?.price ?? ""),
    label: known?.label ?? "",
    openedOn: lot?.openedOn ?? "",
    useBefore: lot?.useBefore ?? "",
    leadDays: String(offer?.leadDays ?? ""),
    orderedOn: offer?.orderedOn ?? "",
  };
};

/** From what is typed, in whatever unit is at hand, to a lot or a price; each field that can't be read is named. */
function reading(material: Material, offer: boolean): v.GenericSchema<LotText, Typed> {
  const unit = STOCK_UNIT[material.kind];
  return v.pipe(
    LotText,
    v.rawTransform<LotText, Typed>(({ dataset: { value: text }, addIssue, NEVER }) => {
      let good = true;
      const wrong = (key: keyof LotText, message: string): void => {
        good = false;
        addIssue({ message, path: [{ type: "object", origin: "value", input: text, key, value: text[key] }] });
      };
      const [thicknessMm, widthMm, heightMm] = LENGTHS.map((name) => {
        const read = readQuantity(text[name], "mm", { least: 0, most: Number.POSITIVE_INFINITY });
        const found = read && "value" in read ? read.value : null;
        if (SHEETS.includes(material.kind) && found === null) wrong(name, "Type a length, such as 85 or 3.5 in.");
        return found;
      }) as [number | null, number | null, number | null];
      const amount = parseAmount(text.amount, unit, material.densityGPerMl);
      if (!offer && amount === undefined)
        wrong(
          "amount",
          material.densityGPerMl === null && /[a-z]/i.test(text.amount)
            ? "This unit needs the material’s density."
            : `Type how many ${unit === "piece" || unit === "sheet" ? `${unit}s` : unit}.`,
        );
      const found = v.safeParse(offer ? OfferInput : LotInput, {
        materialId: material.id,
        thicknessMm,
        widthMm,
        heightMm,
        price: numberOrNull(text.price) ?? 0,
        label: text.label,
        amount: amount ?? 0,
        openedOn: text.openedOn || null,
        useBefore: text.useBefore || null,
        leadDays: numberOrNull(text.leadDays),
        orderedOn: text.orderedOn || null,
      });
      for (const issue of good ? (found.issues ?? []) : [])
        wrong((v.getDotPath(issue) ?? "label") as keyof LotText, issue.message);
      return found.success && good
        ? { amount: 0, openedOn: null, useBefore: null, leadDays: null, orderedOn: null, ...found.output }
        : NEVER;
    }),
  );
}

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
  const [addLot] = api.useAddLotMutation();
  const [changeLot] = api.useChangeLotMutation();
  const [addOffer] = api.useAddOfferMutation();
  const [changeOffer] = api.useChangeOfferMutation();
  const { refetch } = api.useStoresQuery();
  const { form, submit, busy, fault, discard, conflict } = useDraftForm({
    name: `${offer ? "price" : "lot"} ${known?.id ?? `new ${material.id}`}`,
    schema: reading(material, offer !== undefined),
    load: { start: textOf(known), version: known?.version ?? 0 },
    save: (body, version) => {
      if (!known) return offer ? addOffer(body) : addLot(body);
      const change = { ...body, version };
      return offer ? changeOffer({ offerId: known.id, body: change }) : changeLot({ lotId: known.id, body: change });
    },
    newest: async () => {
      const { data } = await refetch();
      const now = (offer ? data?.offers : data?.lots)?.find((one) => one.id === known?.id);
      return now && { start: textOf(now), version: now.version };
    },
    onSaved: () => {
      toast("Saved");
      onDone();
    },
    onKept: onDone,
  });
  const { register, formState } = form;
  const { errors } = formState;
  const field = (name: keyof LotText, label: string, type = "text") => (
    <TextField
      key={name}
      label={label}
      type={type}
      error={errors[name]?.message}
      inputMode={type === "text" && name !== "label" ? "decimal" : undefined}
      {...register(name)}
    />
  );
  return (
    <form
      noValidate
      className="mt-2 rounded-lg border border-line bg-paper p-3"
      aria-label={offer ? `Price of ${material.name}` : `Lot of ${material.name}`}
      onSubmit={submit}
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
        {offer && field("leadDays", "Days until it is here")}
        {offer && field("orderedOn", "Ordered on", "date")}
        {!offer && field("openedOn", "Opened on", "date")}
        {!offer && field("useBefore", "Use before", "date")}
      </div>
      <FaultNote fault={fault} />
      <div className="mt-3 flex justify-end gap-2">
        <Button
          onClick={() => {
            discard();
            onDone();
          }}
        >
          Cancel
        </Button>
        <Button look="main" type="submit" disabled={busy}>
          {offer ? "Save the price" : "Save the lot"}
        </Button>
      </div>
      <ConflictDialog what={offer ? "price" : "lot"} {...conflict} />
    </form>
  );
}

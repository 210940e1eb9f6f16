import { useState } from "react";
import { type Lot, type Material, type Offer, STOCK_UNIT, type Stores } from "#contract";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { plural, sizeOf } from "../../parts/stores/size.ts";
import { Button } from "../../ui/button.tsx";
import { day, figure } from "../../ui/format.ts";
import { LotForm } from "./lot-form.tsx";
import { MaterialForm } from "./material-form.tsx";
import { SoftnessCurve } from "./softness-curve.tsx";

/** One material with its lots and what it can be bought for. */
export function MaterialCard({ material, stores }: { material: Material; stores: Stores }) {
  const [open, setOpen] = useState<"change" | "lot" | "offer" | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const [removeMaterial] = api.useRemoveMaterialMutation();
  const [removeLot] = api.useRemoveLotMutation();
  const [removeOffer] = api.useRemoveOfferMutation();
  const { data: settings } = api.useSettingsQuery();
  const unit = STOCK_UNIT[material.kind];
  const lots = stores.lots.filter((lot) => lot.materialId === material.id && (lot.amount > 0 || !lot.leftOverOf));
  const offers = stores.offers.filter((offer) => offer.materialId === material.id);
  const takeOff = (what: "materials" | "lots" | "offers", id: string, name: string): void => {
    void withUndo(`${name} taken off`, (removed) =>
      ({
        materials: () => removeMaterial({ materialId: id, body: { removed } }),
        lots: () => removeLot({ lotId: id, body: { removed } }),
        offers: () => removeOffer({ offerId: id, body: { removed } }),
      })[what](),
    );
  };
  if (open === "change")
    return (
      <li className="py-3">
        <MaterialForm material={material} onDone={() => setOpen(null)} />
      </li>
    );
  return (
    <li className="py-3">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <div className="min-w-0">
          <h3 className="font-semibold break-words">{material.name}</h3>
          <p className="text-sm text-soft">
            {[
              material.conductivityWPerMK === null ? "" : `${material.conductivityWPerMK} W/mK`,
              material.curve ? `softness from ${material.curveSource || "an unnamed source"}` : "",
              material.kind === "pad" && !material.curve ? "no softness curve: can’t be computed with" : "",
              material.mostMm === null ? "" : `fills up to ${material.mostMm} mm`,
              material.note,
            ]
              .filter(Boolean)
              .join(" · ")}
          </p>
          {(material.conductsElectricity || material.attacksAluminium) && (
            <p className="text-sm font-semibold text-danger">
              {[
                material.conductsElectricity ? "conducts electricity" : "",
                material.attacksAluminium ? "destroys aluminium" : "",
              ]
                .filter(Boolean)
                .join(", ")}
            </p>
          )}
        </div>
        {material.curve && <SoftnessCurve curve={material.curve} name={material.name} />}
      </div>
      {lots.length + offers.length > 0 && (
        <div className="relative mt-2 overflow-x-auto">
          <table className="w-full min-w-[40rem] table-fixed text-left">
            <thead className="text-sm text-soft">
              <tr>
                <th className="w-[28%] py-1 pr-3 font-medium">Sheet or lot</th>
                <th className="w-[16%] pr-3 font-medium">Left</th>
                <th className="w-[13%] pr-6 text-right font-medium">
                  {settings?.currency ?? ""} per {unit}
                </th>
                <th className="w-[12%] pr-3 font-medium">Opened</th>
                <th className="w-[12%] pr-3 font-medium">Use before</th>
                <th>
                  <span className="sr-only">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {lots.map((lot) =>
                editing === lot.id ? (
                  <tr key={lot.id}>
                    <td colSpan={6} className="py-2">
                      <LotForm material={material} lot={lot} onDone={() => setEditing(null)} />
                    </td>
                  </tr>
                ) : (
                  <LotRow
                    key={lot.id}
                    lot={lot}
                    unit={unit}
                    stale={stores.stale.some((one) => one.lotId === lot.id)}
                    onChange={() => setEditing(lot.id)}
                    onRemove={() => takeOff("lots", lot.id, sizeOf(lot))}
                  />
                ),
              )}
              {offers.map((offer) =>
                editing === offer.id ? (
                  <tr key={offer.id}>
                    <td colSpan={6} className="py-2">
                      <LotForm material={material} offer={offer} onDone={() => setEditing(null)} />
                    </td>
                  </tr>
                ) : (
                  <OfferRow
                    key={offer.id}
                    offer={offer}
                    unit={unit}
                    onChange={() => setEditing(offer.id)}
                    onRemove={() => takeOff("offers", offer.id, "Price")}
                  />
                ),
              )}
            </tbody>
          </table>
        </div>
      )}
      {open === "lot" || open === "offer" ? (
        <LotForm material={material} {...(open === "offer" ? { offer: "new" } : {})} onDone={() => setOpen(null)} />
      ) : (
        <div className="mt-1 flex flex-wrap gap-1">
          <Button look="quiet" onClick={() => setOpen("lot")} aria-label={`Put ${material.name} into stock`}>
            Put into stock
          </Button>
          <Button look="quiet" onClick={() => setOpen("offer")} aria-label={`Note a price of ${material.name}`}>
            Note a price
          </Button>
          <Button look="quiet" onClick={() => setOpen("change")} aria-label={`Change ${material.name}`}>
            Change
          </Button>
          <Button
            look="quiet"
            onClick={() => takeOff("materials", material.id, material.name)}
            aria-label={`Take ${material.name} off`}
          >
            Take off
          </Button>
        </div>
      )}
    </li>
  );
}

function LotRow({
  lot,
  unit,
  stale,
  onChange,
  onRemove,
}: {
  lot: Lot;
  unit: string;
  stale: boolean;
  onChange: () => void;
  onRemove: () => void;
}) {
  return (
    <tr className="border-t border-line">
      <td className="py-1 pr-3">{sizeOf(lot)}</td>
      <td className="pr-3 font-semibold">
        {figure(lot.amount, Number.isInteger(lot.amount) ? 0 : 1)} {plural(lot.amount, unit)}
      </td>
      <td className="pr-6 text-right">{lot.leftOverOf ? "–" : figure(lot.price, 2)}</td>
      <td className="pr-3">{lot.openedOn ? day(lot.openedOn) : "–"}</td>
      <td className={`pr-3 ${stale ? "font-semibold text-amber" : ""}`}>
        {lot.useBefore ? `${day(lot.useBefore)}${stale ? ", past" : ""}` : "–"}
      </td>
      <td className="text-right whitespace-nowrap">
        <Button look="quiet" onClick={onChange} aria-label={`Change ${sizeOf(lot)}`}>
          Change
        </Button>
        <Button look="quiet" onClick={onRemove} aria-label={`Take ${sizeOf(lot)} off`}>
          Take off
        </Button>
      </td>
    </tr>
  );
}

function OfferRow({
  offer,
  unit,
  onChange,
  onRemove,
}: {
  offer: Offer;
  unit: string;
  onChange: () => void;
  onRemove: () => void;
}) {
  const size = sizeOf({ ...offer, label: "" });
  return (
    <tr className="border-t border-line text-soft">
      <td className="py-1 pr-3">{offer.thicknessMm === null && offer.widthMm === null ? unit : size}</td>
      <td className="pr-3">can be bought</td>
      <td className="pr-6 text-right">{figure(offer.price, 2)}</td>
      <td colSpan={2} className="pr-3">
        {offer.label}
      </td>
      <td className="text-right whitespace-nowrap">
        <Button look="quiet" aria-label={`Change the price of ${sizeOf(offer)}`} onClick={onChange}>
          Change
        </Button>
        <Button look="quiet" aria-label={`Take the price of ${sizeOf(offer)} off`} onClick={onRemove}>
          Take off
        </Button>
      </td>
    </tr>
  );
}

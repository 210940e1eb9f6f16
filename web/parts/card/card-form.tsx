import { useId } from "react";
import { Controller } from "react-hook-form";
import { type Card, CardInput, LOOK_OVER_ITEMS, SEAL_STATES, USE_KINDS, WARRANTY_ANSWERS } from "#contract";
import { api } from "../../app/api.ts";
import { type DraftForm, type DraftFormOptions, useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { Choice } from "../../ui/choice.tsx";
import { AreaField, numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

interface CardFormProps {
  /** What it is typed into; see `useCardForm`. */
  draft: DraftForm<CardInput, CardInput>;
  saveLabel: string;
  /** Typing begins in it. */
  isFirst?: boolean;
}

/** The form of a card, new or known. */
export const useCardForm = (
  options: Omit<DraftFormOptions<CardInput, CardInput, Card>, "schema">,
): DraftForm<CardInput, CardInput> => useDraftForm({ ...options, schema: CardInput });

const LOOK_STATES = [
  { value: "open", label: "Not yet" },
  { value: "ok", label: "OK" },
  { value: "noted", label: "Found something" },
] as const;

const number = { setValueAs: numberOrNull } as const;

type Fields = Pick<CardFormProps["draft"], "form">;

function WhichCard({ form, isFirst }: Fields & { isFirst: boolean }) {
  const { data: boards } = api.useBoardsQuery();
  const boardsId = useId();
  const {
    register,
    watch,
    setValue,
    formState: { errors },
  } = form;
  return (
    <Sheet title="Which card">
      <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
        <TextField
          data-first-field={isFirst || undefined}
          label="Maker"
          {...register("maker")}
          error={errors.maker?.message}
          autoComplete="off"
        />
        <TextField label="Model" {...register("model")} error={errors.model?.message} autoComplete="off" />
        <TextField label="Serial number" {...register("serial")} error={errors.serial?.message} autoComplete="off" />
        <TextField
          label="Board model"
          list={boardsId}
          defaultValue={boards?.find((board) => board.id === watch("boardModelId"))?.name ?? watch("newBoardModel")}
          key={boards ? "known" : "waiting"}
          hint="Choose a known one or type a new one"
          autoComplete="off"
          onChange={(event) => {
            const name = event.target.value.trim();
            const known = boards?.find((board) => board.name === name);
            setValue("boardModelId", known?.id ?? null, { shouldDirty: true });
            setValue("newBoardModel", known ? "" : name, { shouldDirty: true });
          }}
        />
        <datalist id={boardsId}>
          {boards?.map((board) => (
            <option key={board.id} value={board.name} />
          ))}
        </datalist>
      </div>
    </Sheet>
  );
}

function WhoseCard({ form }: Fields) {
  const { data: settings } = api.useSettingsQuery();
  const {
    register,
    control,
    watch,
    formState: { errors },
  } = form;
  const holder = watch("holder");
  return (
    <Sheet title="Whose and what for">
      <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
        <Controller
          control={control}
          name="holder"
          render={({ field }) => (
            <Choice
              label="Belongs to"
              value={field.value}
              onChange={field.onChange}
              options={[
                { value: "owner", label: "An owner" },
                { value: "stock", label: "Stock" },
              ]}
            />
          )}
        />
        {holder === "owner" && <TextField label="Owner" {...register("ownerName")} error={errors.ownerName?.message} />}
        <TextField
          label={`${holder === "stock" ? "Price paid" : "What the card is worth"} (${settings?.currency ?? "…"})`}
          inputMode="decimal"
          {...register("price", number)}
          error={errors.price?.message}
        />
        <TextField
          label="Age (years)"
          inputMode="decimal"
          {...register("ageYears", number)}
          error={errors.ageYears?.message}
        />
        <SelectField label="Kind of use" {...register("useKind")}>
          {USE_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </SelectField>
        <AreaField
          label="What the owner complains of"
          rows={2}
          className="sm:col-span-2 lg:col-span-3"
          {...register("complaint")}
          error={errors.complaint?.message}
        />
      </div>
    </Sheet>
  );
}

function LookOver({ form: { register, control, watch } }: Fields) {
  const lookOver = watch("lookOver");
  return (
    <Sheet title="Look it over before you plug it in">
      <ul className="divide-y divide-line">
        {LOOK_OVER_ITEMS.map((item, index) => (
          <li
            key={item.id}
            className="grid items-center gap-2 py-2 lg:grid-cols-[minmax(0,1.4fr)_auto_minmax(0,1.4fr)]"
          >
            <span>{item.label}</span>
            <Controller
              control={control}
              name={`lookOver.${index}.state`}
              render={({ field }) => (
                <Choice
                  hideLabel
                  label={item.label}
                  value={field.value}
                  onChange={field.onChange}
                  options={LOOK_STATES}
                />
              )}
            />
            {lookOver[index]?.state === "noted" ? (
              <input
                aria-label={`What you noted: ${item.label}`}
                placeholder="What did you see"
                className="min-h-11 w-full rounded-lg border border-edge bg-sheet px-3 placeholder:text-soft"
                {...register(`lookOver.${index}.text`)}
              />
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
      <div className="mt-4 grid gap-4 sm:grid-cols-2">
        <SelectField label="Seal over a cooler screw" {...register("seal")}>
          {SEAL_STATES.map((state) => (
            <option key={state}>{state}</option>
          ))}
        </SelectField>
        <SelectField
          label="Warranty: what the owner answered"
          {...register("warranty")}
          hint="Opening a card may end its warranty. What holds differs by country."
        >
          {WARRANTY_ANSWERS.map((answer) => (
            <option key={answer}>{answer}</option>
          ))}
        </SelectField>
      </div>
      <div className="mt-3 space-y-2">
        {watch("seal") === "damaged" && <Caution of="openedBefore" />}
        {watch("warranty") === "under warranty" && <Caution of="warranty" />}
      </div>
    </Sheet>
  );
}

/** What is known of a card: identity, owner or stock, use and complaint, seal, look-over, warranty. */
export function CardForm({ draft, saveLabel, isFirst = false }: CardFormProps) {
  const { form, submit, busy, fault, drafted } = draft;
  return (
    <form onSubmit={submit} className="space-y-4" noValidate>
      {drafted && (
        <p role="status" className="text-sm text-soft">
          Not saved yet: what you typed is kept in this browser.
        </p>
      )}
      <WhichCard form={form} isFirst={isFirst} />
      <WhoseCard form={form} />
      <LookOver form={form} />
      <FaultNote fault={fault} />
      <div className="sticky bottom-0 flex justify-end border-t border-line bg-paper py-3">
        <Button look="main" type="submit" disabled={busy}>
          {saveLabel}
        </Button>
      </div>
    </form>
  );
}

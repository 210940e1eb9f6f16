import { Radio, RadioGroup } from "@headlessui/react";

/** A few answers side by side, one tap each. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel = false,
}: {
  label: string;
  value: T;
  options: ReadonlyArray<{ value: T; label: string }>;
  onChange: (value: T) => void;
  hideLabel?: boolean;
}) {
  return (
    <RadioGroup value={value} onChange={onChange} aria-label={label}>
      {!hideLabel && <span className="mb-1 block font-medium">{label}</span>}
      <div className="flex flex-wrap gap-1">
        {options.map((option) => (
          <Radio
            key={option.value}
            value={option.value}
            className="min-h-11 cursor-pointer rounded-lg border border-edge bg-sheet px-3 py-2 data-checked:border-ice data-checked:bg-frost data-checked:font-semibold data-checked:shadow-[inset_0_0_0_1px_var(--ice)]"
          >
            {({ checked }) => (
              <span>
                {checked ? "✓ " : ""}
                {option.label}
              </span>
            )}
          </Radio>
        ))}
      </div>
    </RadioGroup>
  );
}

interface Props {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

/** Something that holds or not. */
export function Tick({ label, on, onChange }: Props) {
  return (
    <label className="flex min-h-11 items-center gap-1.5 sm:min-h-8">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
        className="size-4 accent-water"
      />
      {label}
    </label>
  );
}

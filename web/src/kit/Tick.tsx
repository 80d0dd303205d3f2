/** A tick of a table of thousands: the browser's own, which is drawn sooner than a part of a package. */
export function Tick({
  label,
  checked,
  about,
  onChange,
}: {
  label: string;
  checked: boolean;
  /** More that is told when it is pointed at. */
  about?: string | undefined;
  onChange: (checked: boolean) => void;
}) {
  return (
    <input
      type="checkbox"
      className="tick"
      aria-label={label}
      title={about}
      checked={checked}
      onChange={(event) => onChange(event.currentTarget.checked)}
      // a row that can be chosen is not chosen by its ticks
      onClick={(event) => event.stopPropagation()}
    />
  );
}

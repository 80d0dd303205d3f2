/** Puts the focus on the field that follows one in its table, list or form. */
export function focusNext(field: HTMLElement): void {
  const list = field.closest("table, [role=list], form");
  const fields = [...(list?.querySelectorAll<HTMLElement>("input:not([type=file]):not([disabled])") ?? [])];
  const next = fields[fields.indexOf(field) + 1];
  next?.focus();
  if (next instanceof HTMLInputElement) next.select();
}

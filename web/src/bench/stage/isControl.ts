/** Whether a key belongs to the control that has the focus. */
export function isControl(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest(
      'input, button, select, textarea, [role=slider], [role=menu], [role=listbox], [role=dialog], [role=option], [role=alertdialog]',
    ) !== null
  );
}

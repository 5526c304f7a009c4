/** Puts the cursor into the name of what is selected, all of it chosen. */
export function renameSelected(): void {
  const field = document.querySelector<HTMLInputElement>('input[data-rename]');
  field?.focus();
  field?.select();
}

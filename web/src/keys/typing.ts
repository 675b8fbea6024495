/** Whether a key event belongs to a field that takes text, so that shortcuts must leave it alone. */
export function typing(event: KeyboardEvent): boolean {
  const el = event.target
  if (!(el instanceof HTMLElement)) return false
  return el.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(el.tagName)
}

/** Discs as they are typed: kilograms with spaces or semicolons between them; what is no weight is left out. */
export function discsOf(text: string): number[] {
  return text
    .replaceAll(',', '.')
    .split(/[\s;]+/)
    .map(Number)
    .filter((n) => n > 0)
}
export const discsText = (kg: number[] | undefined): string => (kg ?? []).join(' ')

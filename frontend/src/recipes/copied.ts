/** The print whose settings were copied in this window, to be put on others. */

const KEY = "silvrin copied print";

/** Remembers a print; gives what is said of it. */
export function copyPrint({ id, name }: { id: number; name: string }): string {
  sessionStorage.setItem(KEY, String(id));
  return `The settings of “${name}” can be put on other prints with Ctrl+V.`;
}

export const copiedPrint = (): number | null => Number(sessionStorage.getItem(KEY)) || null;

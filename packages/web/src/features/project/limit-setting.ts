// What is typed at a limit, as a setting.

/** Empty or "off" switches a limit off; anything else must be a number. */
export function settingOf(text: string): { value: number } | { off: true } {
  const plain = text.trim().replace('−', '-').replace(',', '.');
  if (plain === '' || plain.toLowerCase() === 'off') return { off: true };
  const value = Number(plain);
  if (Number.isNaN(value)) throw new Error(`"${text}" is no number; write one, or off`);
  return { value };
}

/** The value that a text stands for while it is typed; undefined while it can't be read. */
export function proposedOf(text: string): number | null | undefined {
  try {
    const setting = settingOf(text);
    return 'value' in setting ? setting.value : null;
  } catch {
    return undefined;
  }
}

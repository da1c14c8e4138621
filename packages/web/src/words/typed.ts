// Numbers as people type them.

/** A number as people type it, with comma, true minus or a hemisphere letter.
 * @throws Error with what would be accepted */
export function typedNumber(text: string, what: string): number {
  const plain = text.trim().replaceAll('−', '-').replace(',', '.');
  const hemisphere = /^([\d.]+)\s*°?\s*([NSEW])$/i.exec(plain);
  const value = hemisphere ? Number(hemisphere[1]) * (/[SW]/i.test(hemisphere[2]) ? -1 : 1) : Number(plain);
  if (plain === '' || Number.isNaN(value)) throw new Error(`"${text}" is no ${what}; write a number like 12.5`);
  return value;
}

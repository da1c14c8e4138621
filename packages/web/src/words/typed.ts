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

/** Minutes after midnight from a time like 17:00. */
export function typedClockMin(text: string): number {
  const read = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  const [hour, minute] = [Number(read?.[1]), Number(read?.[2])];
  if (!(hour < 24 && minute < 60)) throw new Error(`"${text}" is no time; write one like 17:00`);
  return 60 * hour + minute;
}

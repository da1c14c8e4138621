// Reads a reference table: a header line, comma-separated cells, no quotes; blank cells mean "does not happen".

export type ReferenceRow = Readonly<Record<string, string>>;

export function referenceRows(text: string): ReferenceRow[] {
  const [header, ...lines] = text.trim().split(/\r?\n/);
  const names = header.split(',');
  return lines.map((line) => Object.fromEntries(line.split(',').map((cell, i) => [names[i], cell])));
}

export const numberIn = (row: ReferenceRow, name: string): number => Number(row[name]);
export const momentIn = (row: ReferenceRow, name: string): number | null =>
  row[name] === '' ? null : Date.parse(row[name]);
export const siteIn = (row: ReferenceRow) => ({
  latitudeDeg: numberIn(row, 'lat_deg'),
  longitudeDeg: numberIn(row, 'lon_deg'),
  elevationM: numberIn(row, 'height_m'),
});
export const positionIn = (row: ReferenceRow) => ({
  raDeg: numberIn(row, 'ra_icrs_deg'),
  decDeg: numberIn(row, 'dec_icrs_deg'),
});

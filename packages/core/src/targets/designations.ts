// A catalogue designation in any spelling to one form that can be looked up.

const CATALOGUES: readonly (readonly [RegExp, string])[] = [
  [/^m(?:essier)?[\s-]*0*(\d+)$/, 'M'],
  [/^n(?:gc)?[\s-]*0*(\d+[a-z]?)$/, 'NGC'],
  [/^i(?:c)?[\s-]*0*(\d+[a-z]?)$/, 'IC'],
  [/^c(?:aldwell)?[\s-]*0*(\d+)$/, 'C'],
  [/^sh[\s-]*2[\s-]*0*(\d+)$/, 'Sh2-'],
  [/^rcw[\s-]*0*(\d+)$/, 'RCW'],
  [/^pgc[\s-]*0*(\d+)$/, 'PGC'],
  [/^b(?:arnard)?[\s-]*0*(\d+)$/, 'B'],
  [/^mel(?:otte)?[\s-]*0*(\d+)$/, 'Mel'],
  [/^(?:cr|collinder)[\s-]*0*(\d+)$/, 'Cr'],
];

/** "ngc0104", "NGC 104" and "n104" give "NGC104"; names give themselves without spaces, dots and case. */
export function designationKey(text: string): string {
  const plain = text.trim().toLowerCase().replace(/\s+/g, ' ');
  for (const [pattern, prefix] of CATALOGUES) {
    const match = pattern.exec(plain);
    if (match?.[1]) return `${prefix}${match[1].toUpperCase()}`;
  }
  return plain.replace(/[^a-z0-9]/g, '');
}

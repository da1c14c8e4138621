// Objects by designation in any spelling, by name, or by typed coordinates.
import { readFileSync } from 'node:fs';
import type { ResponseOf, catalogueAround, catalogueObjects, searchCatalogue } from '@meridiem/contract';
import { CoreError, designationKey, nameSearch, parsePosition } from '@meridiem/core';
import type { StarTable } from '../../sky/star-table.ts';
import { loadStars } from '../../sky/star-table.ts';
import type { StarName } from './around.ts';
import { loadStarNames, objectsAround, starNamesAround, starsAround } from './around.ts';
import type { Database } from '../../database/connection.ts';

type Row = readonly [
  designation: string,
  alias: string | null,
  name: string | null,
  kind: string,
  mag: number | null,
  sizeArcmin: number | null,
  raDeg: number,
  decDeg: number,
  constellation: string,
];

export interface CatalogueObject {
  readonly designation: string;
  readonly name: string | null;
  readonly kind: string;
  readonly mag: number | null;
  readonly sizeArcmin: number | null;
  readonly raDeg: number;
  readonly decDeg: number;
  readonly constellation: string | null;
}

interface Catalogue {
  readonly byKey: ReadonlyMap<string, CatalogueObject>;
  /** The brightest first: of several with one name they are meant. */
  readonly named: readonly { readonly name: string; readonly object: CatalogueObject }[];
}

const MOST = 12;

/** Reads the shipped table. */
export function loadCatalogue(): Catalogue {
  const rows = JSON.parse(readFileSync(new URL('../../../catalogue/objects.json', import.meta.url), 'utf8')) as Row[];
  const byKey = new Map<string, CatalogueObject>();
  const named: { name: string; object: CatalogueObject }[] = [];
  for (const [designation, alias, name, kind, mag, sizeArcmin, raDeg, decDeg, constellation] of rows) {
    const object = { designation, name, kind, mag, sizeArcmin, raDeg, decDeg, constellation };
    byKey.set(designationKey(designation), object);
    if (alias) byKey.set(designationKey(alias), object);
    if (name) named.push({ name, object });
  }
  named.sort((a, b) => (a.object.mag ?? 99) - (b.object.mag ?? 99));
  return { byKey, named };
}

export type CatalogueService = ReturnType<typeof createCatalogueService>;

export function createCatalogueService({ database }: { database: Database }) {
  let catalogue: Catalogue | null = null;
  let stars: StarTable | null = null;
  let starNames: StarName[] | null = null;
  let findByName: ((typed: string, most: number) => CatalogueObject[]) | null = null;

  return {
    async search(text: string, observatoryId: string): Promise<ResponseOf<typeof searchCatalogue>> {
      catalogue ??= loadCatalogue();
      findByName ??= nameSearch(catalogue.named.map(({ name, object }) => ({ name, item: object })));
      const site = await database.models.Observatory.findByPk(observatoryId);
      const highestDeg = (decDeg: number): number => 90 - Math.abs((site?.latitudeDeg ?? 0) - decDeg);
      const found = typedPosition(text) ?? matches(catalogue, findByName, text);
      return { objects: found.map((object) => ({ ...object, highestDeg: highestDeg(object.decDeg) })) };
    },

    objects(): ResponseOf<typeof catalogueObjects> {
      catalogue ??= loadCatalogue();
      return {
        objects: [...new Set(catalogue.byKey.values())].map(
          ({ designation, name, kind, mag, sizeArcmin, raDeg, decDeg, constellation }) => [
            designation,
            name,
            kind,
            mag,
            sizeArcmin,
            raDeg,
            decDeg,
            constellation ?? '',
          ],
        ),
      };
    },

    around(centre: { raDeg: number; decDeg: number }, radiusDeg: number): ResponseOf<typeof catalogueAround> {
      catalogue ??= loadCatalogue();
      stars ??= loadStars();
      starNames ??= loadStarNames();
      return {
        stars: starsAround(stars, centre, radiusDeg),
        starNames: starNamesAround(starNames, centre, radiusDeg),
        objects: objectsAround(new Set(catalogue.byKey.values()), centre, radiusDeg),
      };
    },
  };
}

function matches(
  { byKey }: Catalogue,
  findByName: (typed: string, most: number) => CatalogueObject[],
  text: string,
): CatalogueObject[] {
  const key = designationKey(text);
  if (key === '') return [];
  const exact = byKey.get(key);
  const byName = findByName(text, MOST);
  const startingSo = /\d/.test(key)
    ? [...byKey]
        .filter(([other]) => other.startsWith(key) && other !== key)
        .sort(([a], [b]) => a.length - b.length)
        .map(([, object]) => object)
    : [];
  // What is typed with a number is a designation first; a name that is merely like it comes after.
  return [...new Set([...(exact ? [exact] : []), ...startingSo, ...byName])].slice(0, MOST);
}

/** "05 34 32, −05 23 28" or "83.6 -5.4": two coordinates in one line. */
function typedPosition(text: string): CatalogueObject[] | null {
  const plain = text.replaceAll('−', '-').trim();
  const parts = /^(.*?\d[^,]*?)\s*(?:,\s*|\s+(?=[+-]))([+-]?.+)$/.exec(plain);
  if (!parts || !/^[\d\s.:hms°d]+$/i.test(parts[1])) return null;
  try {
    const position = parsePosition(parts[1], parts[2]);
    if (!position) return null;
    return [
      {
        designation: 'Typed place',
        name: null,
        kind: 'place',
        mag: null,
        sizeArcmin: null,
        constellation: null,
        ...position,
      },
    ];
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

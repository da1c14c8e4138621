// Searching the shipped catalogue by whatever people type, beside a plain scan of the names in the same run.
import { medianOf, nameSearch, seededRandom } from '@meridiem/core';
import { createCatalogueService, loadCatalogue } from '../packages/server/src/modules/catalogue/index.ts';
import type { Database } from '../packages/server/src/database/connection.ts';

export async function benchCatalogueSearch(queries: number): Promise<string[]> {
  const { named, byKey } = loadCatalogue();
  const service = createCatalogueService({
    database: { one: async () => ({ latitudeDeg: -30 }) } as unknown as Database,
  });
  const random = seededRandom(7);
  const designations = [...new Set([...byKey.values()].map(({ designation }) => designation))];
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const typed = Array.from({ length: queries }, () => {
    const text = random() < 0.6 ? pick(named).name : pick(designations);
    const cut = text.slice(0, 2 + Math.floor(random() * text.length));
    const at = Math.floor(random() * cut.length);
    return random() < 0.4 ? cut.slice(0, at) + cut.slice(at + 1) : random() < 0.5 ? cut.toUpperCase() : cut;
  });
  await service.search(typed[0], 'warm');
  const timed = async (work: (text: string) => unknown): Promise<string> => {
    const times: number[] = [];
    for (const text of typed) {
      const started = performance.now();
      await work(text);
      times.push(performance.now() - started);
    }
    const sorted = times.toSorted((a, b) => a - b);
    return `median ${medianOf(times).toFixed(1)} ms, 95 % ${sorted[Math.floor(0.95 * sorted.length)].toFixed(1)} ms`;
  };
  const plain = (text: string): unknown => named.filter(({ name }) => name.toLowerCase().includes(text.toLowerCase()));
  const find = nameSearch(named.map(({ name, object }) => ({ name, item: object })));
  return [
    `| search of ${queries} names and designations, cut or mistyped | ${await timed((text) => service.search(text, 'x'))} | names alone ${await timed((text) => find(text, 12))}; a plain scan ${await timed(plain)} | limit 50 ms |`,
  ];
}

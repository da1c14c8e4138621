// One question to everything that has a name; what the viewer may not see by name is not found.
import type { SearchHit } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { everythingNamed } from './repository.ts';

export type SearchService = ReturnType<typeof createSearchService>;

export const createSearchService = ({ database }: { database: Database }) => ({
  async search(viewer: Viewer, text: string): Promise<SearchHit[]> {
    const typed = text.trim();
    if (typed.length < 2) return [];
    const pattern = `%${typed.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
    return everythingNamed(database, viewer, pattern);
  },
});

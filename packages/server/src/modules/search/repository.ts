// Everything that has a name, in one query; projects that the viewer may not see by name are left out.
import type { SearchHit } from '@meridiem/contract';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import type { Queries } from '../../database/connection.ts';

/** Found at once. */
const MOST = 20;

export const everythingNamed = (queries: Queries, viewer: Viewer, pattern: string): Promise<SearchHit[]> => {
  const seen = maySee('p', '$3', viewer.role);
  return queries.rows(
    `SELECT kind, words, remark, path FROM (
         SELECT 'project' AS kind, p.name AS words, o.name || ', ' || p.state AS remark, '/projects/' || p.id AS path, 1 AS rank
         FROM projects p JOIN people o ON o.id = p.owner_id WHERE p.observatory_id = $1 AND p.name ILIKE $2 AND ${seen}
         UNION ALL
         SELECT 'target', t.name, p.name, '/projects/' || p.id, 2 FROM targets t JOIN projects p ON p.target_id = t.id WHERE p.observatory_id = $1 AND t.name ILIKE $2 AND ${seen}
         UNION ALL
         SELECT 'panel', l.name, p.name, '/projects/' || p.id, 3 FROM panels l JOIN projects p ON p.id = l.project_id WHERE p.observatory_id = $1 AND l.name ILIKE $2 AND l.name <> p.name AND ${seen}
         UNION ALL
         SELECT 'member', o.name, m.role, '/members', 4 FROM people o JOIN memberships m ON m.person_id = o.id AND m.during @> now() WHERE m.observatory_id = $1 AND o.name ILIKE $2
         UNION ALL
         SELECT 'recipe', r.name, g.name, '/observatory', 5 FROM recipes r JOIN rigs g ON g.id = r.rig_id WHERE r.observatory_id = $1 AND r.name ILIKE $2
         UNION ALL
         SELECT 'night', n.night_date::text, 'night', '/nights/' || n.night_date, 6 FROM nights n WHERE n.observatory_id = $1 AND n.night_date::text LIKE $2
       ) found ORDER BY rank, words, path LIMIT ${MOST}`,
    [viewer.observatoryId, pattern, viewer.personId],
  );
};

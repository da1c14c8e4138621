// Requests as rows: of a project, of an observatory's queue.
import type { QueuedRequest, Request } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { Request as StoredRequest } from '../../database/models/request.ts';
import { NOW } from '../../database/now.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

/** Undecided, or waiting in the queue. */
export const WAITING = ['open', 'queued'] as const;

/** Places are counted anew whenever somebody looks: whoever leaves the queue leaves no gap. */
const PLACE = `(SELECT count(*)::int FROM requests q WHERE q.observatory_id = r.observatory_id AND q.state = 'queued' AND (q.queue_place, q.created) <= (r.queue_place, r.created))`;
const MS = (moment: string): string => `(extract(epoch FROM ${moment}) * 1000)::float8`;

export const requestsOf = (queries: Queries, projectId: string): Promise<Request[]> =>
  queries.rows(
    `SELECT r.id, p.name AS "personName", r.dark_hours AS "darkHours", r.bright_hours AS "brightHours", r.words, r.state, r.remark, r.remark_field AS "remarkField",
       CASE WHEN r.state = 'queued' THEN ${PLACE} END AS "queuePlace", d.name AS "decidedByName", ${MS('r.decided')} AS "decidedUtcMs", ${MS('r.created')} AS "createdUtcMs"
     FROM requests r JOIN people p ON p.id = r.person_id LEFT JOIN people d ON d.id = r.decided_by WHERE r.project_id = $1 ORDER BY r.created DESC`,
    [projectId],
  );

export const waitingRequests = (queries: Queries, viewer: Viewer): Promise<QueuedRequest[]> =>
  queries.rows(
    `SELECT r.id, CASE WHEN s.seen THEN j.id END AS "projectId", CASE WHEN s.seen THEN j.name END AS "projectName", CASE WHEN s.seen THEN p.name END AS "personName", r.state,
       CASE WHEN r.state = 'queued' THEN ${PLACE} END AS "queuePlace", CASE WHEN s.seen THEN r.remark END AS remark, r.dark_hours AS "darkHours", r.bright_hours AS "brightHours", ${MS('r.created')} AS "createdUtcMs"
     FROM requests r JOIN projects j ON j.id = r.project_id JOIN people p ON p.id = r.person_id CROSS JOIN LATERAL (SELECT ${maySee('j', '$2', viewer.role)} AS seen) s
     WHERE r.observatory_id = $1 AND r.state IN ('open', 'queued') ORDER BY r.state = 'queued', r.queue_place, r.created`,
    [viewer.observatoryId, viewer.personId],
  );

export const waitingRequestOf = ({ models }: Queries, projectId: string): Promise<StoredRequest | null> =>
  models.Request.findOne({ where: { projectId, state: { [Op.in]: [...WAITING] } }, lock: true });

export const lockedRequest = ({ models }: Queries, observatoryId: string, id: string): Promise<StoredRequest | null> =>
  models.Request.findOne({ where: { id, observatoryId }, lock: true });

export async function lastPlace({ models }: Queries, observatoryId: string): Promise<number> {
  const place: number | null = await models.Request.max('queuePlace', { where: { observatoryId, state: 'queued' } });
  return place ?? 0;
}

export const withdrawGrantsOf = ({ models }: Queries, requestId: string): Promise<unknown> =>
  models.Grant.update({ withdrawn: NOW }, { where: { requestId, withdrawn: null } });

import { listRequests } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { hours } from '../../../words/format.ts';

/** Requests that wait for a decision, then the queue by place. */
export function WaitingRequests() {
  const { data } = useQuery({
    queryKey: ['projects', 'requests'],
    queryFn: ({ signal }) => call(listRequests, { signal }),
  });
  if (!data || data.requests.length === 0) return null;
  const open = data.requests.filter(({ state }) => state === 'open').length;
  return (
    <section aria-label="Requests" className="mt-3 border-l-2 border-brass pl-3">
      <p className="font-serif text-lg">
        {open === 0
          ? 'No request waits for a decision'
          : open === 1
            ? 'One request waits for a decision'
            : `${open} requests wait for a decision`}
        {data.requests.length > open && `, ${data.requests.length - open} in the queue`}
      </p>
      <ul>
        {data.requests.map(({ id, projectId, projectName, personName, queuePlace, darkHours, brightHours, remark }) => (
          <li key={id} className="flex flex-wrap gap-x-3">
            {projectId ? (
              <Link className="word-link" to={`/projects/${projectId}`}>
                {projectName}
              </Link>
            ) : (
              <span>another member’s project</span>
            )}
            <span className="text-soft">
              {personName && `${personName}, `}
              {hours(darkHours + brightHours)} h{queuePlace !== null && `, number ${queuePlace} in the queue`}
              {remark && `: ${remark}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

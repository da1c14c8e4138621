import { dayAndClock } from '../../../words/format.ts';
import { useHistory } from '../queries.ts';

/** Who changed what in this project. */
export function History({ projectId, zone }: { projectId: string; zone: string }) {
  const { data } = useHistory(projectId);
  if (!data) return null;
  return (
    <section aria-label="History" className="mt-10">
      <h2 className="text-xl">History</h2>
      {data.changes.length === 0 && (
        <p className="text-soft">Nothing has been changed yet. Press z to undo your own last change.</p>
      )}
      <ol>
        {data.changes.map((change) => (
          <li key={change.id} className={`rule py-0.5 ${change.undone ? 'text-soft line-through' : ''}`}>
            {dayAndClock(change.at, zone)} · {change.who} · {change.words}
          </li>
        ))}
      </ol>
    </section>
  );
}

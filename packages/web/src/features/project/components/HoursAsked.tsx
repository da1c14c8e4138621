import type { Project, ProjectRequests, Request } from '@meridiem/contract';
import { REMARK_FIELDS } from '@meridiem/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { dateOf, hours } from '../../../words/format.ts';
import { behindWords, multiplierReasons, SKY_WORDS, timesWords } from '../../../words/shares.ts';
import { envelopeWords, remarkFieldWords, requestWords, typedHours } from '../hours-asked.ts';
import type { RequestActs } from '../request-queries.ts';
import { useProjectRequests, useRequestActs } from '../request-queries.ts';
import { IfGranted } from './IfGranted.tsx';

/** What was asked for a project and granted, what its owner's hours count, and the forms to ask and to decide. */
export function HoursAsked({ project, zone }: { project: Project; zone: string }) {
  const { data } = useProjectRequests(project.id);
  const acts = useRequestActs(project.id);
  const [isAsking, setAsking] = useState(false);
  if (!data) return null;
  const waiting = data.requests.find(({ state }) => state === 'open' || state === 'queued');
  const isGranted = project.state === 'granted';
  return (
    <section aria-label="Hours granted" className="mt-5">
      <h2 className="text-xl">{isGranted ? 'Hours granted' : 'Request'}</h2>
      {isGranted && <p className="font-serif text-lg">{envelopeWords(data.envelope)}</p>}
      <Counts standing={data.standing} />
      {waiting && <Waiting request={waiting} data={data} acts={acts} zone={zone} />}
      {!waiting && data.mayAsk && !isAsking && (
        <button type="button" className="act mt-1" onClick={() => setAsking(true)}>
          {isGranted ? 'Ask for more hours' : 'Ask for hours'}
        </button>
      )}
      {!isGranted && (
        <p className="mt-1">
          <Link className="word-link" to={`/projects/${project.id}/depth?of=archive`}>
            What the archive already holds over its field
          </Link>
        </p>
      )}
      {!waiting && isAsking && <AskForm data={data} acts={acts} onClose={() => setAsking(false)} />}
      {(waiting || isAsking || !isGranted) && project.state !== 'retired' && <IfGranted projectId={project.id} />}
      <Earlier requests={data.requests.filter((request) => request !== waiting)} zone={zone} />
    </section>
  );
}

/** What an hour of the owner counts on this rig, with its reason. */
function Counts({ standing }: Pick<ProjectRequests, 'standing'>) {
  if (standing.length === 0) return null;
  return (
    <p className="text-soft">
      {standing[0].memberName}’s hours on this rig count{' '}
      {standing.map((row, i) => (
        <span key={row.skyClass} className="sm:whitespace-nowrap">
          {i > 0 && ', '}
          <span className="text-ink">{timesWords(row.multiplier)}</span> {SKY_WORDS[row.skyClass]} ({behindWords(row)})
          <WhyMark
            note={{
              title: `${row.memberName}, ${SKY_WORDS[row.skyClass]}: ${timesWords(row.multiplier)}`,
              paragraphs: multiplierReasons(row, null),
            }}
          />
        </span>
      ))}
    </p>
  );
}

interface WaitingProps {
  readonly request: Request;
  readonly data: ProjectRequests;
  readonly acts: RequestActs;
  readonly zone: string;
}

function Waiting({ request, data, acts, zone }: WaitingProps) {
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>): void => void work.catch((error: unknown) => setProblem(wordsOf(error)));
  return (
    <div className="mt-2 border-l-2 border-brass pl-3">
      <p>
        {requestWords(request)} <span className="text-soft">asked {dateOf(request.createdUtcMs, zone)}</span>
      </p>
      {request.words && <p className="font-serif italic">{request.words}</p>}
      {request.remark && (
        <p>
          {request.decidedByName}: <span className="italic">{request.remark}</span>
        </p>
      )}
      {data.mayAsk && (
        <button type="button" className="act mt-1" onClick={() => attempt(acts.withdraw(request.id))}>
          Withdraw request
        </button>
      )}
      {data.mayDecide && <DecideForm request={request} acts={acts} />}
      {data.mayNotDecideWhy && <p className="text-soft">{data.mayNotDecideWhy}.</p>}
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
    </div>
  );
}

function AskForm({ data, acts, onClose }: { data: ProjectRequests; acts: RequestActs; onClose: () => void }) {
  const [typed, setTyped] = useState({
    dark: hours(data.neededDarkHours),
    bright: hours(data.neededBrightHours),
    words: '',
  });
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const write = (fields: Partial<typeof typed>): void => {
    setTyped({ ...typed, ...fields });
    setProblem(null);
  };
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const send = async (): Promise<void> => {
    const [darkHours, brightHours] = [typedHours(typed.dark), typedHours(typed.bright)];
    if (darkHours === null) return setProblem({ field: 'darkHours', words: 'Write hours like 12.5' });
    if (brightHours === null) return setProblem({ field: 'brightHours', words: 'Write hours like 12.5' });
    try {
      await acts.ask({ darkHours, brightHours, words: typed.words });
      onClose();
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? null) : null, words: wordsOf(error) });
    }
  };
  return (
    <form
      aria-label="Ask for hours"
      className="mt-2 grid max-w-3xl gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p className="text-soft">
        The goals still lack about {hours(data.neededDarkHours)} h charged for broadband and{' '}
        {hours(data.neededBrightHours)} h for narrowband, overheads included.
      </p>
      <div className="flex flex-wrap gap-4">
        <Labelled label="Moonless hours" error={of('darkHours')}>
          <input
            className="w-20 text-right"
            value={typed.dark}
            onChange={(event) => write({ dark: event.target.value })}
          />
        </Labelled>
        <Labelled label="Moonlit hours" error={of('brightHours')}>
          <input
            className="w-20 text-right"
            value={typed.bright}
            onChange={(event) => write({ bright: event.target.value })}
          />
        </Labelled>
      </div>
      <Labelled label="What for" error={of('words')}>
        <textarea
          rows={2}
          maxLength={1000}
          value={typed.words}
          onChange={(event) => write({ words: event.target.value })}
        />
      </Labelled>
      <div className="flex flex-wrap items-baseline gap-3">
        <button type="submit" className="act act-strong">
          Send request
        </button>
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
        {problem && !['darkHours', 'brightHours', 'words'].includes(problem.field ?? '') && (
          <span role="alert" className="text-signal">
            {problem.words}
          </span>
        )}
      </div>
    </form>
  );
}

/** Grant hours, return the request with a remark at its field, or queue it. */
function DecideForm({ request, acts }: { request: Request; acts: RequestActs }) {
  const [typed, setTyped] = useState({
    dark: String(request.darkHours),
    bright: String(request.brightHours),
    remark: '',
    field: 'hours' as (typeof REMARK_FIELDS)[number],
  });
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const write = (fields: Partial<typeof typed>): void => {
    setTyped({ ...typed, ...fields });
    setProblem(null);
  };
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const attempt = (work: Promise<unknown>): void =>
    void work.catch((error: unknown) =>
      setProblem({ field: error instanceof ApiError ? (error.field ?? null) : null, words: wordsOf(error) }),
    );
  const grant = (): void => {
    const [darkHours, brightHours] = [typedHours(typed.dark), typedHours(typed.bright)];
    if (darkHours === null || brightHours === null)
      return setProblem({ field: darkHours === null ? 'darkHours' : 'brightHours', words: 'Write hours like 12.5' });
    attempt(acts.grant(request.id, { darkHours, brightHours, remark: typed.remark }));
  };
  const withRemark = (send: () => Promise<unknown>): void =>
    typed.remark.trim()
      ? attempt(send())
      : setProblem({ field: 'remark', words: 'Say why, so that the member can act on it' });
  return (
    <form
      aria-label="Decide the request"
      className="mt-3 grid max-w-3xl gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        grant();
      }}
    >
      <div className="flex flex-wrap items-end gap-4">
        <Labelled label="Grant moonless hours" error={of('darkHours')}>
          <input
            className="w-20 text-right"
            value={typed.dark}
            onChange={(event) => write({ dark: event.target.value })}
          />
        </Labelled>
        <Labelled label="Grant moonlit hours" error={of('brightHours')}>
          <input
            className="w-20 text-right"
            value={typed.bright}
            onChange={(event) => write({ bright: event.target.value })}
          />
        </Labelled>
      </div>
      <Labelled label="Remark" error={of('remark')}>
        <textarea
          rows={2}
          maxLength={1000}
          value={typed.remark}
          onChange={(event) => write({ remark: event.target.value })}
        />
      </Labelled>
      <div className="flex flex-wrap items-end gap-3">
        <button type="submit" className="act act-strong">
          Grant these hours
        </button>
        <button
          type="button"
          className="act"
          onClick={() => withRemark(() => acts.queue(request.id, { remark: typed.remark }))}
        >
          Queue request
        </button>
        <span className="flex items-end gap-2">
          <button
            type="button"
            className="act"
            onClick={() =>
              withRemark(() => acts.return(request.id, { remark: typed.remark, remarkField: typed.field }))
            }
          >
            Return request
          </button>
          <label className="text-soft">
            about{' '}
            <select
              value={typed.field}
              onChange={(event) => write({ field: event.target.value as typeof typed.field })}
            >
              {REMARK_FIELDS.map((field) => (
                <option key={field} value={field}>
                  {remarkFieldWords(field)}
                </option>
              ))}
            </select>
          </label>
        </span>
        {problem && !['darkHours', 'brightHours', 'remark'].includes(problem.field ?? '') && (
          <span role="alert" className="text-signal">
            {problem.words}
          </span>
        )}
      </div>
    </form>
  );
}

function Earlier({ requests, zone }: { requests: readonly Request[]; zone: string }) {
  if (requests.length === 0) return null;
  return (
    <ul aria-label="Earlier requests" className="mt-2 text-soft">
      {requests.map((request) => (
        <li key={request.id}>
          {dateOf(request.decidedUtcMs ?? request.createdUtcMs, zone)}: {requestWords(request)}
          {request.remark && (
            <span className={request.state === 'returned' ? 'text-ink' : ''}>
              {' '}
              {request.remarkField && `On ${remarkFieldWords(request.remarkField)}: `}
              <span className="italic">{request.remark}</span>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

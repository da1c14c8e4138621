import { askSeasonReason, readSeasonReason } from '@meridiem/contract';
import { call } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkState } from '../../../ui/WorkUnderWay.tsx';
import type { ReasonAbout } from '../reason-words.ts';
import { seasonReasonWords } from '../reason-words.ts';

interface NightReasonProps {
  readonly projectId: string;
  readonly nightDate: string;
  /** Whether the project is planned in the night. */
  readonly isThere: boolean;
  readonly about: ReasonAbout;
}

/** Why a project has, or has not, a place in a night, worked out when asked for. */
export function NightReason({ projectId, nightDate, isThere, about }: NightReasonProps) {
  const params = { id: projectId, nightDate };
  const work = useStoredWork({
    queryKey: ['season-reason', projectId, nightDate],
    read: (signal) => call(readSeasonReason, { params, signal }),
    ask: () => call(askSeasonReason, { params }),
    isThere: ({ reason }) => reason !== null,
    isAsked: false,
  });
  const { data, isUnasked, isWorking, ask, error } = work;
  if (error) return null;
  const again = isThere ? 'Why here?' : 'Why not?';
  return (
    <div aria-live="polite">
      {isUnasked && !isWorking && (
        <button type="button" className="act" onClick={ask}>
          {again}
        </button>
      )}
      <WorkState
        work={work}
        words="Planning the season with it and without it"
        measured="Seasons compared"
        again={again}
      />
      {data?.reason && <p className="max-w-[75ch]">{seasonReasonWords(data.reason, about)}</p>}
    </div>
  );
}

import type { Rig } from '@meridiem/contract';
import type { Framing } from '../use-framing.ts';
import type { Framed } from '../view-model.ts';
import { amountsOf, compositionText, sentPanels } from '../view-model.ts';
import { BeginProject } from './BeginProject.tsx';
import { Reframe } from './Reframe.tsx';
import { KeepComposition } from './KeepComposition.tsx';

interface SendingProps {
  readonly framing: Framing;
  /** Of the settled composition. */
  readonly framed: Framed;
  readonly rig: Rig;
  readonly isTrial: boolean;
}

/** Where the composition goes: a new project, one that is there, or the shelf. */
export function Sending({ framing: { settled, search }, framed, rig, isTrial }: SendingProps) {
  const { problem } = amountsOf(settled, framed, rig);
  const panels = sentPanels(framed.panels);
  const text = compositionText(search, rig.id);
  if (problem) return null;
  if (isTrial)
    return (
      <p className="mt-6 text-soft">
        Framed on trial: the rig does not have this focal length. Use its own to begin a project, or change the rig on
        the Observatory page.
      </p>
    );
  return (
    <>
      <BeginProject composition={settled} rigId={rig.id} panels={panels} compositionText={text} />
      <Reframe rigId={rig.id} panels={panels} compositionText={text} projectId={search.get('project') ?? ''} />
      <KeepComposition composition={settled} compositionText={text} />
    </>
  );
}

import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useSurveySource } from '../../../sky-field/survey-source.ts';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { ObservatoryChanges } from '../queries.ts';
import { storedWords } from '../view-model.ts';
import { Line } from './Sheet.tsx';

interface SkySourceProps {
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Where the pictures under the framing map come from, and what of them is kept. */
export function SkySource({ mayEdit, changes }: SkySourceProps) {
  const { data: source } = useSurveySource();
  const notice = useNotice();
  if (!source) return null;
  const clear = (): void => void changes.clearPictures().catch((error: unknown) => notice(wordsOf(error), true));
  return (
    <section aria-label="Sky pictures">
      <h2 className="text-xl">Sky pictures</h2>
      <dl className="mt-1">
        <Line
          name="Source"
          help={
            source.hosts.length === 0
              ? 'Another source needs its host to be allowed where the server is started.'
              : `An address with {ra}, {dec}, {width} in degrees and {px}, on ${source.hosts.join(' or ')}. Empty: rendered here.`
          }
        >
          <EditableText
            label="Source of sky pictures"
            shown={source.template ?? 'rendered here, not photographed'}
            text={source.template ?? ''}
            width={320}
            disabled={!mayEdit}
            onSave={(text) => changes.skySource(text.trim() || null)}
          />
        </Line>
        <Line name="Kept for later" help="Shown again without the network; the least used go first beyond 512 MB.">
          {storedWords(source.stored)}
          {mayEdit && source.stored.count > 0 && (
            <button type="button" className="act ml-3" onClick={clear}>
              Clear kept pictures
            </button>
          )}
        </Line>
      </dl>
    </section>
  );
}

import { useSurveySource } from '../../../sky-field/survey-source.ts';
import type { FinderTarget } from './ChosenTarget.tsx';
import { thumbnailOf } from './RankedList.tsx';

const SIDE_PX = 96;

/** What a target looks like, with where the picture is from; nothing where none comes. */
export function TargetPicture({ target }: { readonly target: FinderTarget }) {
  const { data: source } = useSurveySource();
  if (!source) return null;
  return (
    <figure className="float-right ml-3 w-24 text-xs text-soft">
      <img
        key={target.designation}
        src={`${thumbnailOf(target)}&from=${source.key}`}
        alt={`${target.designation}, twice its size`}
        width={SIDE_PX}
        height={SIDE_PX}
        onError={({ currentTarget }) => (currentTarget.parentElement!.hidden = true)}
      />
      <figcaption>{source.template === null ? 'rendered' : new URL(source.template).host}</figcaption>
    </figure>
  );
}

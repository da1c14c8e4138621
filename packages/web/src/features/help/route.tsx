import Markdown from 'react-markdown';
import { NavLink, useParams } from 'react-router';
import { useAccount } from '../../app/session.ts';
import { HELP_PAGES } from '../../app/pages.ts';
import { Empty } from '../../ui/states.tsx';
import { GUIDES, pictureOf } from './guides.ts';

/** The guides: one's own first, the others beside. */
export default function HelpPage() {
  const { role } = useAccount();
  const { guide = role in GUIDES ? role : 'member' } = useParams();
  const text = GUIDES[guide];
  return (
    <>
      <nav aria-label="Guides" className="flex flex-wrap gap-4">
        {HELP_PAGES.map(({ words, to }) => (
          <NavLink key={to} to={to} className="word-link text-soft">
            {words}
          </NavLink>
        ))}
      </nav>
      {text ? (
        <article className="guide mt-4 max-w-[72ch]">
          <Markdown
            components={{ img: ({ src, alt }) => <img src={pictureOf(String(src))} alt={alt} loading="lazy" /> }}
          >
            {text}
          </Markdown>
        </article>
      ) : (
        <Empty title="There is no such guide.">Choose one above.</Empty>
      )}
    </>
  );
}

import { Link, useRouteError } from 'react-router';
import { wordsOf } from './api.ts';

/** A page that can’t be shown, and the ways on: nobody is left before a white sheet. */
export function PageError() {
  const error = useRouteError();
  // Pages built since this one was opened have other names.
  const isOutdated = error instanceof TypeError && /import|module/i.test(error.message);
  return (
    <div role="alert" className="mt-6 max-w-prose border-l-2 border-signal py-1 pl-3">
      <h1 className="text-xl">{isOutdated ? 'Meridiem has been updated' : 'This page could not be shown'}</h1>
      <p className="mt-1 text-soft">
        {isOutdated ? 'Load the page again to go on; nothing you saved is lost.' : wordsOf(error)}
      </p>
      <p className="mt-3 flex gap-4">
        <button type="button" className="act" onClick={() => window.location.reload()}>
          Load this page again
        </button>
        <Link className="act" to="/tonight" reloadDocument>
          Go to Tonight
        </Link>
      </p>
    </div>
  );
}

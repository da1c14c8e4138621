/** How far a computation is, from 0 to 1. */
export const WorkBar = ({ share, words }: { share: number; words: string }) => (
  <div
    role="progressbar"
    aria-label={words}
    aria-valuemin={0}
    aria-valuemax={100}
    aria-valuenow={Math.round(share * 100)}
    className="h-1.5 w-48 bg-hairline"
  >
    <div className="h-full bg-brass" style={{ width: `${share * 100}%` }} />
  </div>
);

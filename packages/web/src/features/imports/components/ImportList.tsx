import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { wordsOf } from '../../../app/api.ts';
import { Failure, Loading } from '../../../ui/states.tsx';
import { dayAndClock } from '../../../words/format.ts';
import { useImports, useTimeZone } from '../queries.ts';
import { filesOfDrop } from '../dropped.ts';
import { startReading } from '../reading.ts';

const STATES = { preview: 'not applied yet', applied: 'in the ledger', undone: 'undone' } as const;

/** Where files are dropped, and what was imported before. */
export function ImportList() {
  const { data, error, isPending, refetch } = useImports();
  const zone = useTimeZone();
  const navigate = useNavigate();
  const [over, setOver] = useState(false);
  const begin = (files: readonly File[]): void => {
    if (files.length > 0) void startReading(files, zone, (id) => void navigate(`/imports/${id}`));
  };
  return (
    <>
      <h1 className="text-2xl">Import exposures</h1>
      <div
        className={`mt-4 border border-dashed p-8 text-center ${over ? 'border-brass bg-wash' : 'border-hairline'}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          void filesOfDrop(event.dataTransfer).then(begin);
        }}
      >
        <p className="font-serif text-lg">Drop a folder or files here</p>
        <p className="mt-1 text-soft">
          FITS frames, plain or gzipped; tables as CSV or VOTable. Only headers and hashes leave this computer. Nothing
          enters the ledger before you have seen what it would count for.
        </p>
        <p className="mt-3 flex justify-center gap-3">
          <Chooser words="Choose a folder" isFolder onFiles={begin} />
          <Chooser words="Choose files" onFiles={begin} />
        </p>
      </div>
      <h2 className="mt-8 text-lg">Earlier imports</h2>
      {isPending && <Loading what="earlier imports" rows={3} />}
      {error && <Failure words={wordsOf(error)} onRetry={() => void refetch()} />}
      {data?.imports.length === 0 && <p className="mt-2 text-soft">None yet.</p>}
      {data && data.imports.length > 0 && (
        <table className="mt-2 w-full">
          <thead>
            <tr className="rule">
              <th scope="col">from</th>
              <th scope="col">begun</th>
              <th scope="col">by</th>
              <th scope="col" className="text-right">
                files
              </th>
              <th scope="col" className="text-right">
                added
              </th>
              <th scope="col">state</th>
            </tr>
          </thead>
          <tbody>
            {data.imports.map((one) => (
              <tr key={one.id} className="rule">
                <td>
                  <Link className="word-link" to={`/imports/${one.id}`}>
                    {one.source}
                  </Link>
                </td>
                <td>{dayAndClock(one.createdUtcMs, zone)}</td>
                <td>{one.who}</td>
                <td className="text-right">{one.files}</td>
                <td className="text-right">{one.added}</td>
                <td className="text-soft">{STATES[one.state]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

interface ChooserProps {
  readonly words: string;
  readonly isFolder?: boolean;
  readonly onFiles: (files: readonly File[]) => void;
}

const Chooser = ({ words, isFolder = false, onFiles }: ChooserProps) => (
  <label className="act cursor-pointer focus-within:outline-2">
    {words}
    <input
      type="file"
      multiple
      className="sr-only"
      {...(isFolder ? { webkitdirectory: '' } : {})}
      onChange={(event) => onFiles([...(event.target.files ?? [])])}
    />
  </label>
);

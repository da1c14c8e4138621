import type { DeliverySet } from '@meridiem/contract';
import { DELIVERY_SETS } from '@meridiem/contract';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { wordsOf } from '../../app/api.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { PartPicker } from './components/PartPicker.tsx';
import { useDelivery } from './queries.ts';
import { amountWords, archiveAddress, calibrationWords, deliveryQuery } from './view-model.ts';

const PAGE = 100;
const SET_WORDS: Readonly<Record<DeliverySet, string>> = {
  accepted: 'accepted exposures',
  'not rejected': 'all but rejected ones',
  all: 'all, rejected ones too',
};

/** A project's files for whoever processes them: chosen, named, checked, downloaded. */
export default function DeliveryPage() {
  const { id = '' } = useParams();
  const [search, change] = useAddress({ replace: true });
  const query = deliveryQuery(search);
  const { data, error, isPending, refetch } = useDelivery(id, query);
  const [shown, setShown] = useState(PAGE);
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  if (isPending) return <Loading what="the files" rows={8} />;
  const { projectName, files, withoutFile, missing, archiveName, archiveBytes } = data;
  const calibration = calibrationWords(files);
  return (
    <>
      <p>
        <Link className="word-link" to={`/projects/${id}`}>
          {projectName}
        </Link>
      </p>
      <h1 className="text-2xl">Files</h1>
      <p className="mt-1 text-soft">
        The project’s own lights as they were taken and the calibration frames that fit them, with a list and a checksum
        for each.
      </p>
      <div className="mt-3 grid gap-2">
        <p className="flex items-baseline gap-1">
          <span className="w-[90px] text-soft">Which</span>
          <Choice
            label="Which exposures"
            value={query.set}
            options={DELIVERY_SETS.map((set) => ({ value: set, words: SET_WORDS[set] }))}
            onChoose={(set) => change({ set })}
          />
        </p>
        <p className="flex items-baseline gap-1">
          <span className="w-[90px] text-soft">Calibration</span>
          <Choice
            label="Calibration frames"
            value={query.calibration}
            options={[
              { value: 'with', words: 'with what fits' },
              { value: 'without', words: 'lights alone' },
            ]}
            onChoose={(calibration) => change({ calibration })}
          />
        </p>
        <PartPicker label="Folders" value={query.folders} onChange={(parts) => change({ folders: parts || 'none' })} />
        <PartPicker label="Names" value={query.name} onChange={(parts) => change({ name: parts || 'none' })} />
      </div>
      {missing.length > 0 && (
        <p role="alert" className="mt-3 border-l-4 border-signal py-1 pl-3 text-signal">
          {missing.length} {missing.length === 1 ? 'file is' : 'files are'} not here as written, and left out:{' '}
          {missing.slice(0, 3).join(', ')}
          {missing.length > 3 && ' and others'}
        </p>
      )}
      {files.length === 0 ? (
        <Empty title="No file can be handed over yet.">
          {withoutFile > 0
            ? `The files of ${withoutFile} exposures were never on this server: imported ones stay where they are.`
            : 'Files come with the first night that devices carry out.'}
        </Empty>
      ) : (
        <>
          <p className="mt-3 flex flex-wrap items-baseline gap-x-4">
            <a className="act act-strong" href={archiveAddress(id, query)} download={archiveName}>
              Download {files.length} files, {amountWords(archiveBytes)}
            </a>
            <span className="text-soft">
              One archive, {archiveName}. A download that was cut goes on where it ended.
            </span>
          </p>
          {calibration && <p className="mt-1">{calibration}</p>}
          {withoutFile > 0 && (
            <p className="mt-1 text-soft">{withoutFile} more exposures count whose files were never on this server.</p>
          )}
          <table className="mt-3 w-full">
            <thead>
              <tr className="rule">
                <th scope="col">file</th>
                <th scope="col" className="text-right">
                  size
                </th>
                <th scope="col">SHA-256</th>
              </tr>
            </thead>
            <tbody>
              {files.slice(0, shown).map(({ exposureId, kind, name, sizeBytes, sha256 }) => (
                <tr key={exposureId} className="rule">
                  <td className="break-all">
                    {kind === 'light' ? (
                      <Link className="word-link" to={`/exposures/${exposureId}`}>
                        {name}
                      </Link>
                    ) : (
                      name
                    )}
                  </td>
                  <td className="whitespace-nowrap text-right">{amountWords(sizeBytes)}</td>
                  <td className="text-soft" title={sha256}>
                    {sha256.slice(0, 12)}…
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {files.length > shown && (
            <button type="button" className="act mt-2" onClick={() => setShown(shown + PAGE)}>
              More files
            </button>
          )}
        </>
      )}
    </>
  );
}

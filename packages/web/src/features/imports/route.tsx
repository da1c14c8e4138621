import { useParams } from 'react-router';
import { ImportList } from './components/ImportList.tsx';
import { Preview } from './components/Preview.tsx';

/** Frames from elsewhere into the ledger: dropped, looked at, then written at once. */
export default function ImportsPage() {
  const { id } = useParams();
  return id ? <Preview key={id} id={id} /> : <ImportList />;
}

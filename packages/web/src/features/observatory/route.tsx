import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { AddRig } from './components/AddRig.tsx';
import { ClimateSheet } from './components/ClimateSheet.tsx';
import { ClosureList } from './components/ClosureList.tsx';
import { FilterTable } from './components/FilterTable.tsx';
import { HorizonEditor } from './components/HorizonEditor.tsx';
import { ObservatoryLimits } from './components/ObservatoryLimits.tsx';
import { RecipeTable } from './components/RecipeTable.tsx';
import { RetiredList } from './components/RetiredList.tsx';
import { RigSheet } from './components/RigSheet.tsx';
import { SkySource } from './components/SkySource.tsx';
import { SiteSheet } from './components/SiteSheet.tsx';
import { useObservatory, useObservatoryChanges } from './queries.ts';

/** The site, its horizon, rigs, filters, recipes and limits: what every plan stands on. */
export default function ObservatoryPage() {
  const { data: observatory, error, isPending, refetch } = useObservatory();
  const changes = useObservatoryChanges();
  const account = useAccount();
  const mayEdit = account.role === 'coordinator';
  if (isPending) return <Loading what="the observatory" rows={10} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  return (
    <>
      <h1 className="text-2xl">{observatory.name}</h1>
      {!mayEdit && <p className="text-soft">You may look; a coordinator changes these.</p>}
      <div className="mt-4 grid gap-10 lg:grid-cols-2">
        <SiteSheet observatory={observatory} mayEdit={mayEdit} changes={changes} />
        <HorizonEditor points={observatory.horizon} mayEdit={mayEdit} changes={changes} />
      </div>
      <div className="mt-10 grid gap-10 lg:grid-cols-2">
        {observatory.rigs.map((rig) => (
          <RigSheet
            key={rig.id}
            rig={rig}
            filters={observatory.filters}
            zone={observatory.timeZone}
            mayEdit={mayEdit}
            changes={changes}
          />
        ))}
      </div>
      {mayEdit && <AddRig isFirst={observatory.rigs.length === 0} changes={changes} />}
      <div className="mt-10 grid gap-10 lg:grid-cols-2">
        <ClimateSheet observatory={observatory} mayEdit={mayEdit} changes={changes} />
        <ClosureList observatory={observatory} mayEdit={mayEdit} changes={changes} />
      </div>
      <div className="mt-10 grid gap-10 lg:grid-cols-2">
        <SkySource mayEdit={mayEdit} changes={changes} />
      </div>
      <FilterTable filters={observatory.filters} mayEdit={mayEdit} changes={changes} />
      <RecipeTable observatory={observatory} account={account} changes={changes} />
      <ObservatoryLimits observatory={observatory} mayEdit={mayEdit} changes={changes} />
      <RetiredList observatory={observatory} mayEdit={mayEdit} changes={changes} />
    </>
  );
}

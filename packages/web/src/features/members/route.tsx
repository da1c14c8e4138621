import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { Invite } from './components/Invite.tsx';
import { MemberTable } from './components/MemberTable.tsx';
import { OwnAccount } from './components/OwnAccount.tsx';
import { useMemberActs, usePeople } from './queries.ts';

/** Who shares the observatory, and one's own account. */
export default function MembersPage() {
  const { data, error, isPending, refetch } = usePeople();
  const acts = useMemberActs();
  const { role } = useAccount();
  if (isPending) return <Loading what="the members" rows={6} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const you = data.people.find((person) => person.isYou)!;
  return (
    <>
      <h1 className="text-2xl">Members</h1>
      <MemberTable people={data.people} isCoordinator={role === 'coordinator'} acts={acts} />
      <div className="mt-10 grid gap-12 md:grid-cols-2">
        <OwnAccount you={you} acts={acts} />
        {role === 'coordinator' && <Invite invitations={data.invitations} acts={acts} />}
      </div>
    </>
  );
}

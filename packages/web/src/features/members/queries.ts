import type { BodyOf } from '@meridiem/contract';
import {
  changePassword,
  editAccount,
  editMembership,
  endMembership,
  invitePerson,
  listPeople,
  resetPassword,
  withdrawInvitation,
} from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../../app/api.ts';

export const usePeople = () =>
  useQuery({ queryKey: ['observatory', 'people'], queryFn: ({ signal }) => call(listPeople, { signal }) });

/** What can be done about people; lists are fetched anew after each. */
export function useMemberActs() {
  const queryClient = useQueryClient();
  const after = async <T>(work: Promise<T>): Promise<T> => {
    const result = await work;
    await queryClient.invalidateQueries({ queryKey: ['observatory', 'people'] });
    return result;
  };
  return {
    invite: (body: BodyOf<typeof invitePerson>) => after(call(invitePerson, { body })),
    withdraw: (id: string) => after(call(withdrawInvitation, { params: { id } })),
    reset: (id: string) => after(call(resetPassword, { params: { id } })),
    edit: (id: string, body: BodyOf<typeof editMembership>) => after(call(editMembership, { params: { id }, body })),
    leave: (id: string, handOnTo: string | null) => after(call(endMembership, { params: { id }, body: { handOnTo } })),
    editAccount: async (body: BodyOf<typeof editAccount>) => {
      await after(call(editAccount, { body }));
      await queryClient.invalidateQueries({ queryKey: ['session'] });
    },
    changePassword: (body: BodyOf<typeof changePassword>) => call(changePassword, { body }),
  };
}
export type MemberActs = ReturnType<typeof useMemberActs>;

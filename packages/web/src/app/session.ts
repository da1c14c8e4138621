import type { Account } from '@meridiem/contract';
import { readSession } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import { call } from './api.ts';

export const useSession = () =>
  useQuery({ queryKey: ['session'], queryFn: ({ signal }) => call(readSession, { signal }), staleTime: 60_000 });

export const AccountContext = createContext<Account | null>(null);

/** The signed-in member; only inside the shell. */
export function useAccount(): Account {
  const account = useContext(AccountContext);
  if (!account) throw new Error('useAccount is for pages inside the shell');
  return account;
}

import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import type { ReactNode } from 'react';

interface FoldProps {
  readonly title: string;
  /** What stands inside, as a plain statement. */
  readonly summary: ReactNode;
  readonly children: ReactNode;
}

/** A block of settings as one statement that opens where it is clicked. */
export const Fold = ({ title, summary, children }: FoldProps) => (
  <Disclosure as="div" className="rule">
    <DisclosureButton className="group flex w-full cursor-pointer items-baseline gap-2 py-1.5 text-left hover:bg-wash">
      <span aria-hidden className="text-brass group-data-open:rotate-90">
        ▸
      </span>
      <span className="w-[104px] shrink-0 text-soft">{title}</span>
      <span className="group-data-open:text-soft">{summary}</span>
    </DisclosureButton>
    <DisclosurePanel className="pb-3 pl-[19px]">{children}</DisclosurePanel>
  </Disclosure>
);

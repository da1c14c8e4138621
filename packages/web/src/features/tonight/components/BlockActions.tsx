import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import type { PlanBlock, RigPlan } from '@meridiem/contract';
import type { HandStep } from '../hand-changes.ts';
import { heldBlock, leftOutBlock, movedBlock, swappedBlocks } from '../hand-changes.ts';

interface BlockActionsProps {
  readonly plan: RigPlan;
  readonly block: PlanBlock;
  readonly index: number;
  readonly change: (step: HandStep) => void;
}

/** What hands can do with a block, by name. */
export function BlockActions({ plan, block, index, change }: BlockActionsProps) {
  const [before, after] = [plan.blocks[index - 1], plan.blocks[index + 1]];
  const actions: [string, () => HandStep][] = [
    ['Pin at this time', () => movedBlock(plan, block, 0)],
    ...(before
      ? ([['Swap with the one before', () => swappedBlocks(plan, before, block)]] as [string, () => HandStep][])
      : []),
    ...(after
      ? ([['Swap with the one after', () => swappedBlocks(plan, block, after)]] as [string, () => HandStep][])
      : []),
    ['Not before it begins now', () => heldBlock(block, 'not_before', block.startUtcMs)],
    ['Not after it ends now', () => heldBlock(block, 'not_after', block.endUtcMs)],
    ['Leave out tonight', () => leftOutBlock(plan, block)],
  ];
  return (
    <Menu>
      <MenuButton className="act px-2 py-0" aria-label={`By hand: ${block.panelName}`} data-actions>
        …
      </MenuButton>
      <MenuItems anchor="bottom end" className="z-30 border border-hairline bg-raised py-1 shadow-lg">
        {actions.map(([words, step]) => (
          <MenuItem key={words}>
            <button
              type="button"
              className="block w-full cursor-pointer px-3 py-1 text-left data-[focus]:bg-wash"
              onClick={() => change(step())}
            >
              {words}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

import { DateField } from './DateField.tsx';

/** The first and the last night of a period. */
export const Period = ({
  from,
  to,
  onChange,
}: {
  from: string;
  to: string;
  onChange: (changes: { from: string } | { to: string }) => void;
}) => (
  <>
    <label>
      <span className="text-soft">from the night of</span>{' '}
      <DateField value={from} onChange={(date) => date && onChange({ from: date })} />
    </label>
    <label>
      <span className="text-soft">to that of</span>{' '}
      <DateField value={to} onChange={(date) => date && onChange({ to: date })} />
    </label>
  </>
);

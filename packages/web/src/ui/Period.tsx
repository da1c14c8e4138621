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
      <input
        type="date"
        value={from}
        onChange={(event) => event.target.value && onChange({ from: event.target.value })}
      />
    </label>
    <label>
      <span className="text-soft">to that of</span>{' '}
      <input type="date" value={to} onChange={(event) => event.target.value && onChange({ to: event.target.value })} />
    </label>
  </>
);

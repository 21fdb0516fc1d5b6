/** Yes or no, with its label behind it. */
export function Tick(props: { label: string; value: boolean; onChange: (value: boolean) => void }) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="accent-accent"
        checked={props.value}
        onChange={({ target }) => props.onChange(target.checked)}
      />
      {props.label}
    </label>
  );
}

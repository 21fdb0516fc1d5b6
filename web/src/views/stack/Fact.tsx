/** A line of a list of facts: what, and how much. */
export function Fact({ label, value, title }: { label: string; value: string; title?: string }) {
  return (
    <>
      <dt className="text-soft">{label}</dt>
      <dd className="min-w-0 text-right font-mono [overflow-wrap:anywhere]" title={title}>
        {value}
      </dd>
    </>
  );
}

/** The options of a select. @param of each value with its name */
export const Options = ({ of }: { of: readonly (readonly [string, string])[] }) =>
  of.map(([value, name]) => (
    <option key={value} value={value}>
      {name}
    </option>
  ));

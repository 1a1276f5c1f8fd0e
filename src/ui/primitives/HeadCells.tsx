/** The names above the columns of a table; an empty name is that of the rows. */

interface Props {
  names: readonly string[];
  className?: string;
  /** Of the column of names, where it stands otherwise. */
  first?: string;
}

export function HeadCells({ names, className = 'px-2 py-1 font-normal', first = className }: Props) {
  return names.map((name, k) => (
    <th key={name} scope="col" className={k === 0 ? first : className}>
      {name || <span className="sr-only">What</span>}
    </th>
  ));
}

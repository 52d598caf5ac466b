/** What a recipe is called, its group and a note. */
export interface Named {
  name: string;
  group: string;
  note: string;
}

export function Naming({ now, onChange }: { now: Named; onChange: (next: Named) => void }) {
  const row = (key: keyof Named, label: string, most: number) => (
    <label className="grid grid-cols-[64px_1fr] items-center gap-2 py-0.5 text-[12.5px]">
      <span className="text-soft">{label}</span>
      <input
        value={now[key]}
        maxLength={most}
        onChange={(event) => onChange({ ...now, [key]: event.target.value })}
        className="rounded-[2px] bg-well px-2 py-1"
      />
    </label>
  );
  return (
    <>
      {row("name", "Name", 60)}
      {row("group", "Group", 40)}
      {row("note", "Note", 2000)}
    </>
  );
}

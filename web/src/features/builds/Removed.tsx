import { Button } from "../../ui/Button";

interface Props {
  items: { id: string; name: string }[];
  onBack: (id: string) => void;
}

/** What was taken out of a list, to be brought back. */
export function Removed({ items, onBack }: Props) {
  if (items.length === 0) return null;
  return (
    <details className="mt-3 text-[13px]">
      <summary className="cursor-pointer py-1 text-soft">
        {items.length} taken out of the list
      </summary>
      <ul>
        {items.map((item) => (
          <li key={item.id} className="flex items-center gap-3 py-1">
            {item.name} <Button onClick={() => onBack(item.id)}>Bring back</Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

import type { ReachWays } from "@/core/access/ways";
import { countWords, plainWords } from "../parts/words";
import { AccessWords } from "./AccessWords";

interface Props {
  ways: ReachWays;
  onItem: (id: string) => void;
  onPerson: (address: string) => void;
}

/** All that a person, or everybody of an organisation, reaches by name; the most sensitive first. */
export function ReachedItems({ ways, onItem, onPerson }: Props) {
  const { who, count, items } = ways;
  const isPerson = "address" in who;
  return (
    <>
      <p className="mb-3 text-[15px]">
        <b className="font-semibold">{isPerson ? who.name : who.organisation}</b>
        {isPerson
          ? who.insider
            ? ", one of our own people,"
            : `, of ${who.organisation},`
          : `, ${countWords(who.people.length, "person", "people")},`}{" "}
        {isPerson || who.people.length === 1 ? "reaches" : "reach"} {countWords(count, "item")} by name.
        {count > items.length && ` The first ${items.length.toLocaleString("en-GB")} are listed.`}
      </p>
      {!isPerson && (
        <ul className="mb-4 flex flex-wrap gap-x-5 gap-y-1">
          {who.people.map((person) => (
            <li key={person.address}>
              <button type="button" onClick={() => onPerson(person.address)} className="text-verdigris underline">
                {person.name}
              </button>{" "}
              <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
            </li>
          ))}
        </ul>
      )}
      <table className="w-full max-w-5xl">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="py-1.5 font-semibold">Item</th>
            <th className="font-semibold">Label</th>
            <th className="font-semibold">What they can do</th>
          </tr>
        </thead>
        <tbody>
          {items.map((item) => (
            <tr key={item.id} className="border-t border-line">
              <td className="py-1.5">
                <button type="button" onClick={() => onItem(item.id)} className="text-left text-verdigris underline">
                  {item.name}
                </button>
                <span className="block text-[12px] text-ink-faint">{item.place.join(" / ")}</span>
              </td>
              <td>{plainWords(item.label)}</td>
              <td>
                <AccessWords access={item} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

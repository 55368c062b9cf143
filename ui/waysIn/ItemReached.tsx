import type { Exposure } from "@/core/access/exposure";
import type { ItemWays } from "@/core/access/ways";
import { asOf, useStandpoint } from "../frame/viewer";
import { countWords } from "../parts/words";
import { AccessWords } from "./AccessWords";
import { Link } from "../parts/Link";

/** What is open to the outside, all ways together. */
function OutsideWords({ outside }: { outside: Exposure }) {
  const { open, openKeyed, organisations, outsideRole, outsideUntil, outsideDownload } = outside;
  if (outsideRole === null) return <p className="mb-3">Nobody outside reaches it.</p>;
  const access = { role: outsideRole, download: outsideDownload, until: outsideUntil };
  return (
    <p className="mb-3">
      {open && (openKeyed ? "Whoever has an address and its password; " : "Whoever has an address; ")}
      {organisations.length > 0 && `${countWords(organisations.length, "organisation")}: ${organisations.join(", ")}; `}
      together they <AccessWords access={access} />.
    </p>
  );
}

/** Everybody who reaches an item: outsiders first, then the house, then whoever comes by a link. */
export function ItemReached({ ways, onPerson }: { ways: ItemWays; onPerson: (address: string) => void }) {
  const { past } = useStandpoint();
  const outsiders = ways.people.filter((person) => !person.insider);
  return (
    <>
      <p className="mb-3 text-[15px]">
        <b className="font-semibold">{ways.item.name}</b>, {ways.item.label} ({ways.labelFrom}), in{" "}
        {ways.item.place.join(" / ")}:{" "}
        {ways.organisation
          ? `${countWords(outsiders.length, "person", "people")} of ${ways.organisation} ${outsiders.length === 1 ? "reaches" : "reach"} it by name.`
          : `${countWords(outsiders.length, "outsider")} and ${countWords(ways.people.length - outsiders.length, "insider")} reach it by name.`}
      </p>
      {!ways.organisation && ways.outside && <OutsideWords outside={ways.outside} />}
      {ways.crowd.map((link) => (
        <p key={link.share} className="mb-2 border-l-[3px] border-copper pl-2.5">
          <b className="font-semibold">{link.words}</b>: <AccessWords access={link} />.{" "}
          <Link href={asOf(`/register?share=${link.share}`, past)} className="text-verdigris underline">
            Open the share
          </Link>
        </p>
      ))}
      <table className="w-full max-w-5xl">
        <thead className="text-left text-[12px] text-ink-faint">
          <tr>
            <th className="py-1.5 font-semibold">Who</th>
            <th className="font-semibold">Of</th>
            <th className="font-semibold">What they can do</th>
            <th className="font-semibold">
              <span className="sr-only">How</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {ways.people.map((person) => (
            <tr key={person.address} className="border-t border-line">
              <td className="py-1.5">
                {person.name} <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
              </td>
              <td className={person.insider ? "text-ink-faint" : "font-mono text-[12.5px]"}>
                {person.insider ? "your organisation" : person.organisation}
              </td>
              <td>
                <AccessWords access={person} />
              </td>
              <td className="text-right">
                <button
                  type="button"
                  onClick={() => onPerson(person.address)}
                  className="text-verdigris underline"
                  aria-label={`How ${person.name} gets in`}
                >
                  How
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

import type { ReactNode } from "react";
import type { OutlookTold } from "@/contract/sharing";
import { LABELS } from "@/core/estate/records";
import type { GivenWaiver } from "@/core/sharing/request";
import type { Seconds } from "@/core/time/instant";
import { listWords } from "@/core/text/words";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { WaiveBreak } from "./WaiveBreak";

interface Props {
  outlook: OutlookTold;
  now: Seconds;
  /** Leave that is given in the same step; null where whoever looks can't give any. */
  waivers: readonly GivenWaiver[] | null;
  onWaivers: (waivers: GivenWaiver[]) => void;
}

/** What a share would be, as it is filled in: what stands in its way, what it would break, what it would give away. */
export function Verdict({ outlook, now, waivers, onWaivers }: Props) {
  const { cannot, breaks, instead, sentences, addresses } = outlook;
  const dates = useDates();
  const cautioned = addresses.filter(({ cautions }) => cautions.length > 0);
  return (
    <div aria-live="polite">
      {cannot.length > 0 && (
        <Part title="It can’t be made like this">
          {cannot.map(({ why, instead }) => (
            <li key={why} className="text-oxide">
              {why} {instead}
            </li>
          ))}
        </Part>
      )}
      {breaks.length > 0 && (
        <Part title={`It would break ${countWords(breaks.length, "rule")}`}>
          {breaks.map(({ rule, title, reason, canWaive }) => (
            <li key={rule}>
              <b className="font-semibold text-oxide">{title}.</b> {reason}
              {waivers && canWaive && (
                <WaiveBreak
                  rule={rule}
                  title={title}
                  now={now}
                  onWaive={(waiver) =>
                    onWaivers([...waivers.filter((one) => one.rule !== rule), ...(waiver ? [waiver] : [])])
                  }
                />
              )}
            </li>
          ))}
        </Part>
      )}
      {cannot.length === 0 && breaks.length === 0 && (
        <p className="mb-3 font-semibold text-verdigris">It breaks no rule.</p>
      )}
      {cautioned.length > 0 && (
        <Part title="About the addresses">
          {cautioned.map(({ address, cautions }) => (
            <li key={address}>
              <span className="block font-mono text-[12.5px] text-copper">{address}</span>
              {cautions.join(" ")}
            </li>
          ))}
        </Part>
      )}
      {instead.length > 0 && (
        <Part title="What is done instead">
          {instead.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </Part>
      )}
      <Part title="What it gives away">
        {sentences.map((words) => (
          <li key={words}>{words}</li>
        ))}
        <li>{labelWords(outlook)}</li>
        {outlook.folder && <li className="text-copper">{outlook.folder}</li>}
        <li>{afterWords(outlook)}</li>
        {outlook.makeAt > now + 60 && <li>It is made on {dates.moment(outlook.makeAt)}.</li>}
      </Part>
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-4">
      <h2 className="mb-0.5 font-semibold">{title}</h2>
      <ul className="space-y-1">{children}</ul>
    </section>
  );
}

function labelWords({ item, labels }: OutlookTold): string {
  if (item.kind === "file") return `The file is labelled ${item.label} (${item.labelFrom}).`;
  const parts = LABELS.filter((label) => labels[label] > 0).map((label) => `${labels[label]} ${label}`);
  return `The ${item.kind} is labelled ${item.label} (${item.labelFrom}). With all below: ${listWords(parts)}.`;
}

function afterWords({ after: { anyone, insiders, outsiders } }: OutlookTold): string {
  const named = `${countWords(outsiders, "outsider")} and ${countWords(insiders, "insider")} by name`;
  return anyone ? `Afterwards anyone with a link can reach it, and ${named}.` : `Afterwards ${named} can reach it.`;
}

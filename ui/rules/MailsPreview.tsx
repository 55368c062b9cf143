import type { AnswerOf } from "@/contract/operation";
import type { rulesOperations } from "@/contract/rules";
import { countWords } from "../parts/words";

interface Props {
  mails: AnswerOf<(typeof rulesOperations)["previewRule"]>["mails"];
  /** How many owners are asked for now; all of them where that isn't given. */
  pilot: number | undefined;
}

/** The mails that a rule which asks would send, before any goes out: how many, to whom, and one as it would read. */
export function MailsPreview({ mails: { owners, count, ownerless, sample }, pilot }: Props) {
  const now = Math.min(count, pilot ?? count);
  return (
    <div className="mt-3 max-w-prose border-l-[3px] border-copper bg-copper-soft px-3 py-2">
      <b className="font-semibold">
        {count === 0 ? "No mails will be sent." : `${countWords(now, "mail")} will be sent, one to each owner.`}
      </b>
      {now < count && ` ${countWords(count - now, "more owner waits", "more owners wait")} until you ask everyone.`}
      {ownerless > 0 &&
        ` ${countWords(ownerless, "finding")} ${ownerless === 1 ? "has" : "have"} nobody responsible: no mail is sent, but the grace period still runs.`}
      {count > 0 && (
        <details className="mt-1">
          <summary className="cursor-default text-verdigris underline">Recipients</summary>
          <ul className="max-h-48 overflow-y-auto">
            {owners.map(({ address, name, findings }) => (
              <li key={address}>
                {name} <span className="font-mono text-[12px] text-ink-faint">{address}</span>,{" "}
                {countWords(findings, "finding")}
              </li>
            ))}
          </ul>
          {owners.length < count && <p>And {countWords(count - owners.length, "more owner", "more owners")}.</p>}
        </details>
      )}
      {sample && (
        <details className="mt-1">
          <summary className="cursor-default text-verdigris underline">The mail to {sample.to}</summary>
          <p className="mt-1 font-semibold">{sample.subject}</p>
          <pre className="max-h-72 overflow-y-auto font-sans whitespace-pre-wrap">{sample.text}</pre>
        </details>
      )}
    </div>
  );
}

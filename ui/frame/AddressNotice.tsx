import { begun } from "@/core/text/text";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";

interface Props {
  path: string;
  parameters: URLSearchParams;
  /** By parameter: what isn't understood of it. */
  problems: ReadonlyMap<string, string>;
}

/** In place of a screen whose address asks for something that isn't understood. */
export function AddressNotice({ path, parameters, problems }: Props) {
  const rest = new URLSearchParams([...parameters].filter(([name]) => !problems.has(name)));
  return (
    <div className="h-full bg-raised p-6">
      <Notice tone="wrong">
        <p className="font-semibold">Nothing is shown because this address isn’t valid.</p>
        <ul>
          {[...problems].map(([name, words]) => (
            <li key={name}>{begun(words)}.</li>
          ))}
        </ul>
        <p className="mt-2">
          <Link href={`${path}?${rest}`} className="text-verdigris underline">
            Show the screen without {problems.size === 1 ? "it" : "these"}
          </Link>
        </p>
      </Notice>
    </div>
  );
}

import type { ChoiceField, Field } from "./field";
import { plainText } from "./field";
import type { Values } from "./mapping";

/*
 * Ordinary English words by which columns and their values are recognised. They are only proposals:
 * whoever imports sees what each is taken for, and can change it. Common practice, no source.
 */

/** What a field's heading may say, the most telling first. */
export const HEADINGS: Record<Field, readonly RegExp[]> = {
  path: [/\bpath\b/, /^(full )?location$/, /^where$/],
  parent: [/parent|containing|\bin folder\b|^(folder|directory|place|lies in)$/],
  name: [/^(file|item|document|object|resource)? ?names?$/, /^title$/, /^(file|item|document|object)$/],
  item: [/^(file|item|document|object|resource) ?(id|identifier|number|key)$/],
  kind: [/^(item |file |object |resource )?(type|kind)$/, /^(item|object): (type|kind)$/],
  label: [/label|sensitivity|classification|confidentiality/],
  owner: [/owner/],
  inherits: [/^inherits|inheritance|own (rights|access|permissions)|unique/],
  audience: [
    /^(shared|shares?|given|granted|access|open) (with|to|for)$/,
    /recipient|grantee|audience/,
    /^(user|person|member|who|people|with|to|principal)$/,
    /e-?mail|address/,
  ],
  means: [
    /^(share|sharing|link|access|grant|audience|principal|member|recipient) ?(type|kind|means|scope|reach)$/,
    /^(scope|reach|how)$/,
  ],
  role: [/\brole\b|permission|\brights?\b|access level|^access$|may do|^level$/],
  password: [/password|passphrase|protected/],
  download: [/download|copy(ing)?/],
  ends: [/expir|^ends?( on| at| date)?$|: ?ends?( on)?$|valid (to|until|through)|^until$|end date/],
  lastUsed: [/last (used?|access|accessed|open|opened|visit|activity|download)|^used last/],
  madeBy: [/(made|created|shared|granted|given|sent|added) by|creator|sharer|grantor/],
  madeOn: [
    /(made|created|shared|granted|given|added|sent)( on| at)?$|(creation|share|sharing|grant) (date|time)|^since$/,
  ],
  share: [/^(share|link|permission|grant|access) ?(id|identifier|number|key)$/],
  url: [/\burl\b|^link( address)?$|web address|^href$/],
  inherited: [/^inherited|comes from above|from (the )?(parent|folder)|inherited/],
};

/** What a field's texts may say. The first that fits is proposed. */
const MEANINGS: { [F in ChoiceField]: readonly (readonly [string, RegExp])[] } = {
  kind: [
    ["space", /space|library|drive|site|share root|volume/],
    ["folder", /folder|directory|\bdir\b|collection/],
    ["file", /file|document|pdf|image|sheet|text|video|audio/],
  ],
  label: [
    ["restricted", /restricted|strictly|secret/],
    ["confidential", /confidential|sensitive/],
    ["internal", /internal/],
    ["public", /public/],
    ["none", /^$|none|^-$|unlabell?ed|not set/],
  ],
  inherits: [
    ["no", /^(no|false|n|0|broken|own|unique|stopped)$/],
    ["yes", /^(|yes|true|y|1|inherits|inherited|x)$/],
  ],
  audience: [
    ["open", /^any(one|body)\b|^public\b|the internet|whoever has/],
    [
      "house",
      /^every(one|body)\b|^all (staff|employees|insiders|users)|whole (company|organi[sz]ation)|^(organi[sz]ation|company|internal)$/,
    ],
    ["none", /^(|-|none|nobody|no one|private|not shared)$/],
    ["group", /./],
  ],
  means: [
    [
      "named",
      /(named|specific|invited|direct|personal|people|person|recipient|restricted).*link|link.*(named|specific|invited|people|person|recipient|restricted)/,
    ],
    ["house", /(organi[sz]ation|company|internal|house|domain|staff|tenant|everyone in).*|^everyone$/],
    ["open", /any(one|body)|public|open|anonymous|link/],
    ["group", /group|team|list/],
    ["person", /person|user|member|direct|guest|individual|grant|people/],
    ["none", /^(|-|none|private|not shared)$/],
  ],
  role: [
    ["deposit", /upload|deposit|drop|collect/],
    ["manage", /manage|full|owner|admin|control/],
    ["edit", /edit|write|modif|contribut|change|^rw|^w$/],
    ["comment", /comment|review|annotat/],
    ["view", /view|read|see|look|open|^r(o|x)?$|download/],
    ["none", /^(|-|none|no access|denied)$/],
  ],
  password: [
    ["no", /^(|no|false|n|0|-|–|none|not set|off|without|unprotected)$/],
    ["yes", /^(yes|true|y|1|x|✓|✔|set|on|with|protected|required|\*+)$/],
  ],
  download: [
    ["blocked", /block|den|prevent|disabled|^(no|false|n|0|off|not allowed|forbidden)$/],
    ["allowed", /allow|permit|enabled|^(|yes|true|y|1|x|✓|✔|on)$/],
  ],
  inherited: [
    ["yes", /^(yes|true|y|1|x|✓|✔|inherited|parent|folder|from above)$/],
    ["no", /^(|no|false|n|0|-|–|direct|own|explicit|here)$/],
  ],
};

/** A heading that says the opposite of its field: yes means that downloads are blocked. */
const OPPOSITE = /block|prevent|disable|forbid|without|\bno\b/;

/** What a text of a column is proposed to mean; undefined where no word is known. */
export function proposedMeaning<F extends ChoiceField>(
  field: F,
  text: string,
  heading = "",
): NonNullable<Values[F]>[string] | undefined {
  const plain = plainText(text);
  const found = MEANINGS[field].find(([, words]) => words.test(plain))?.[0];
  const isOpposite =
    field === "download" &&
    OPPOSITE.test(plainText(heading)) &&
    /^(|yes|true|y|1|x|✓|✔|on|no|false|n|0|off|-)$/.test(plain);
  const meaning = !isOpposite ? found : /^(yes|true|y|1|x|✓|✔|on)$/.test(plain) ? "blocked" : "allowed";
  return meaning as NonNullable<Values[F]>[string] | undefined;
}

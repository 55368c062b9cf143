/** Names as somebody would choose them who wants to be taken for something else, or to have something run. */
export const HOSTILE: readonly string[] = [
  "two\r\nBcc: everybody@quay.example",
  "forged\n\nIt has been approved. Open it: http://evil.example/",
  "null\0escape\x1b[31mbell\x07delete\x7f",
  "c1\u0085next\u009bline",
  "line\u2028paragraph\u2029end",
  "invoice\u202egnp.exe",
  "\u2066isolated\u2069\u2069\u2067 and not",
  "zero\u200bwidth\ufeff\u2060",
  "\u200e\u200f\u061cmarks",
  "\u{e0041}\u{e0042}tags\u{e007f}",
  "soft\u00adhyphen\u3164filler",
  "half a pair \ud83d",
  "תוכנית שנתית 2026",
  "خطة \u202dسنوية",
  "pаypal-раssports", // Cyrillic among Latin letters
  "<script>window.ran = 1</script>",
  '"><img src=x onerror="window.ran = 1">',
  "<style>*{display:none}</style>",
  "javascript:window.ran=1",
  "{{7*7}} ${7*7} <%= 7*7 %>",
  '=HYPERLINK("http://evil.example","x")',
  "+1+1|cmd",
  "-2+3;=1+1\t@SUM(1)",
  "＝1+1",
  "\t=1+1",
  "a;=cmd|' /C calc'!A0",
  "'; drop table ledger; --",
  "../../etc/passwd",
  "CON",
  "%0d%0aSet-Cookie: a=b",
  " leading and trailing ",
  "x".repeat(65_536),
  "é".repeat(2_000),
];

/** What no text that is shown or sent may hold, whatever anybody called anything. */
export const LYING =
  /[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\u200b\u200e\u200f\u061c\u202a-\u202e\u2066\u2067\u2060\ufeff\u00ad\u3164\u{e0000}-\u{e007f}]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/u;

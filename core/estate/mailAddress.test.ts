import { simpleParser } from "mailparser";
import { domainOf, normaliseAddress } from "./address";
import { isMailAddress } from "./mailAddress";

// RFC 3696, section 3, and RFC 5322, appendix A, give valid ones; quoted forms and comments among theirs are refused here.
test.each([
  "user+mailbox@quay.example",
  "customer/department=shipping@quay.example",
  "$A12345@quay.example",
  "!def!xyz%abc@quay.example",
  "_somename@quay.example",
  "o'brien@quay.example",
  "p@bücher.example",
  "ίδα@quay.example",
  "x@quay。example",
  `${"a".repeat(64)}@quay.example`,
])("%s is an address", (text) => expect(isMailAddress(text)).toBe(true));

test.each([
  "a@evil.example(.home.example",
  "a(home.example)@evil.example",
  "a@evil.example(@home.example)",
  '"a@evil.example"@home.example',
  "<a@evil.example>",
  "Ada <a@evil.example>",
  "a@evil.example,b@home.example",
  "a@evil.example;b@home.example",
  "a@b@home.example",
  "a@[127.0.0.1]",
  ".a@quay.example",
  "a..b@quay.example",
  "a@quay..example",
  "a@-quay.example",
  "a@quay.example.",
  "a b@quay.example",
  "a@quay.example\r\nBcc: b@quay.example",
  "a@quay\u0000.example",
  "a@quay.example\u202e",
  "@quay.example",
  "quay.example",
  `${"a".repeat(65)}@quay.example`,
  `${"ä".repeat(33)}@quay.example`,
  `a@${"quay.".repeat(60)}example`,
])("%j is none", (text) => expect(isMailAddress(text)).toBe(false));

// A reference library reads the header as mail servers do: it must find the same domain as we.
test.each(["user+mailbox@quay.example", "o'brien@mail.quay.example", "a/b=c@quay.example"])(
  "mailparser takes the same domain of %s as we do",
  async (address) => {
    const { to } = await simpleParser(`To: ${address}\r\n\r\n`);
    const [read] = Array.isArray(to) ? to : [to!];
    expect(read.value).toMatchObject([{ address }]);
    expect(domainOf(read.value[0].address!)).toBe(domainOf(normaliseAddress(address)));
  },
);

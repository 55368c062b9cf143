import { createTransport } from "nodemailer";

/** Sends a code to a recipient, by the mail catcher in the demo. */
export async function sendCode(address: string, code: string, item: string, store: string) {
  const transport = createTransport({
    host: "127.0.0.1",
    port: Number(process.env.LATCH_SMTP_PORT ?? 4314),
    ignoreTLS: true,
  });
  await transport.sendMail({
    from: `${store} <files@wrenmoor.example>`,
    to: address,
    subject: `Your code for ${item}`,
    text: `Your code is ${code}. It works for ten minutes.\n\nIf you didn’t ask for it, ignore this mail.`,
  });
}

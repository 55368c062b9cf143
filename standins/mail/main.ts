import { Hono } from "hono";
import { html } from "hono/html";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import { nowText } from "../parts/clock";
import { endWithParent, listen } from "../parts/listen";

interface Mail {
  at: string;
  from: string;
  to: string;
  subject: string;
  text: string;
}

const MOST_KEPT = 500;

/** Takes every mail, delivers none, and shows them on a page. */
export function runMailCatcher(options: { smtpPort: number; port: number }) {
  const mails: Mail[] = [];
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS", "AUTH"],
    onData(stream, _session, done) {
      simpleParser(stream)
        .then(({ from, to, subject, text }) => {
          const recipients = Array.isArray(to) ? to.map((one) => one.text).join(", ") : (to?.text ?? "");
          mails.unshift({
            at: nowText(),
            from: from?.text ?? "",
            to: recipients,
            subject: subject ?? "",
            text: text ?? "",
          });
          mails.length = Math.min(mails.length, MOST_KEPT);
          done();
        })
        .catch(done);
    },
  });
  smtp.on("error", (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === "EADDRINUSE"
        ? `Mail catcher: port ${options.smtpPort} is taken`
        : `Mail catcher: ${error.message}`,
    );
    process.exit(1);
  });
  smtp.listen(options.smtpPort, "127.0.0.1");

  const app = new Hono();
  app.get("/mails.json", (c) => c.json(mails));
  app.get("/", (c) => c.html(outbox(mails)));
  endWithParent();
  listen("Mail catcher", app, options.port);
}

function outbox(mails: Mail[]) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Outbox</title>
        <style>
          body {
            font:
              16px/1.5 Georgia,
              "DejaVu Serif",
              serif;
            max-width: 700px;
            margin: 24px auto;
            padding: 0 20px;
          }
          article {
            border-top: 1px solid #999;
            padding: 12px 0;
          }
          pre {
            font: inherit;
            white-space: pre-wrap;
            margin: 6px 0 0;
          }
        </style>
      </head>
      <body>
        <h1>Outbox</h1>
        <p>Every mail that the demo sends ends here. Nothing leaves this machine.</p>
        ${mails.length === 0 ? html`<p>No mail yet.</p>` : ""}
        ${mails.map(
          (mail) =>
            html`<article>
              <b>${mail.subject}</b><br />${mail.at}, from ${mail.from} to ${mail.to}
              <pre>${mail.text}</pre>
            </article>`,
        )}
      </body>
    </html>`;
}

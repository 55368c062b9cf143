import { html } from "hono/html";
import type { ItemRecord, StoreRecord } from "../../core/estate/records";

type Content = ReturnType<typeof html>;

/** Each store has a ground of its own, so that a tester sees where they are. Nothing here is the console's. */
const GROUND: Record<string, string> = { Stacks: "#f4efe4", Alcoves: "#eaf0e2", "Loading Dock": "#ececf2" };

export function page(store: StoreRecord, title: string, content: Content) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title} · ${store.name}</title>
        <style>
          body {
            margin: 0;
            background: ${GROUND[store.name] ?? "#f2f2f2"};
            color: #222;
            font:
              17px/1.5 Georgia,
              "DejaVu Serif",
              serif;
          }
          header {
            padding: 14px 20px;
            border-bottom: 2px solid #2223;
            font-style: italic;
          }
          main {
            max-width: 620px;
            margin: 32px auto;
            padding: 0 20px;
          }
          h1 {
            font-size: 25px;
            line-height: 1.25;
            margin: 0 0 12px;
            overflow-wrap: anywhere;
          }
          label {
            display: block;
            margin: 12px 0 4px;
          }
          input {
            font: inherit;
            padding: 8px;
            width: 100%;
            box-sizing: border-box;
            border: 1px solid #666;
            background: #fff;
          }
          button,
          .button {
            display: inline-block;
            font: inherit;
            padding: 9px 18px;
            margin-top: 16px;
            border: 1px solid #222;
            background: #fff;
            color: #222;
            text-decoration: none;
            cursor: pointer;
          }
          ul {
            list-style: none;
            padding: 0;
          }
          li {
            border-top: 1px solid #2223;
            padding: 9px 0;
            overflow-wrap: anywhere;
          }
          .sheet {
            background: #fff;
            border: 1px solid #2224;
            padding: 20px;
            white-space: pre-wrap;
          }
          .wrong {
            border-left: 4px solid #8a1c1c;
            padding-left: 12px;
          }
          a {
            color: inherit;
          }
        </style>
      </head>
      <body>
        <header>${store.name}, Wrenmoor Philharmonic</header>
        <main>${content}</main>
      </body>
    </html>`;
}

export const gone = html`<h1>This link is no longer available</h1>
  <p>It has ended or was revoked. If you still need the files, ask the person who sent it to you.</p>`;

export const notYet = (opensAt: string) =>
  html`<h1>Not yet</h1>
    <p>This link opens on ${opensAt.slice(0, 10)} at ${opensAt.slice(11, 16)} UTC.</p>`;

const wrongNote = (wrong: string | undefined) => (wrong ? html`<p class="wrong" role="alert">${wrong}</p>` : "");

export const askPassword = (token: string, wrong?: string) =>
  html`<h1>This link has a password</h1>
    ${wrongNote(wrong)}
    <form method="post" action="/l/${token}/password">
      <label for="password">Password</label>
      <input id="password" name="password" type="password" autocomplete="off" required autofocus />
      <button>Open</button>
    </form>`;

/** @param place the page's own address, below which its forms are sent */
export const askAddress = (place: string) =>
  html`<h1>Who are you?</h1>
    <p>This is for named people. We send a code to your address.</p>
    <form method="post" action="${place}/address">
      <label for="address">Your e-mail address</label>
      <input id="address" name="address" type="email" required autofocus />
      <button>Send me a code</button>
    </form>`;

export const askCode = (place: string, address: string, wrong?: string) =>
  html`<h1>Your code</h1>
    ${wrongNote(wrong)}
    <p>If this is for ${address}, a code of six digits is on its way there.</p>
    <form method="post" action="${place}/code">
      <input type="hidden" name="address" value="${address}" />
      <label for="code">Code</label>
      <input
        id="code"
        name="code"
        inputmode="numeric"
        pattern="[0-9]{6}"
        autocomplete="one-time-code"
        required
        autofocus
      />
      <button>Open</button>
    </form>`;

export const intake = (token: string, folder: ItemRecord, message: string | null | undefined, received?: string) =>
  html`<h1>Send files to ${folder.name}</h1>
    ${received ? html`<p role="status">${received} has arrived. Thank you.</p>` : ""}
    <p>${message ?? "You can send files here. Nobody who sends can see what others have sent."}</p>
    <form method="post" action="/l/${token}/files" enctype="multipart/form-data">
      <label for="name">Your name</label>
      <input id="name" name="name" maxlength="200" />
      <label for="sender">Your e-mail address</label>
      <input id="sender" name="sender" type="email" required />
      <label for="file">File</label>
      <input id="file" name="file" type="file" required />
      <button>Send</button>
    </form>`;

export function shown(options: {
  token: string;
  item: ItemRecord;
  isTop: boolean;
  children: ItemRecord[];
  mayDownload: boolean;
  text: string;
}) {
  const { token, item, isTop, children, mayDownload, text } = options;
  const up = isTop ? "" : html`<p><a href="/l/${token}?at=${item.parentId ?? ""}">Back to the folder above</a></p>`;
  if (item.kind !== "file")
    return html`${up}
      <h1>${item.name}</h1>
      ${children.length === 0 ? html`<p>This folder is empty.</p>` : ""}
      <ul>
        ${children.map(
          (child) =>
            html`<li>
              ${child.kind === "file" ? "" : "Folder: "}<a href="/l/${token}?at=${child.id}">${child.name}</a>
            </li>`,
        )}
      </ul>`;
  return html`${up}
    <h1>${item.name}</h1>
    <div class="sheet">${text}</div>
    ${
      mayDownload
        ? html`<a class="button" href="/l/${token}/file/${item.id}">Download</a>`
        : html`<p>It can be looked at here, but not downloaded.</p>`
    }`;
}

export const noRight = html`<h1>You have no right to this</h1>
  <p>It was revoked, or never given. If you need the file, ask the person who shared it with you.</p>`;

export const insideItem = (item: ItemRecord, text: string, mayDownload: boolean) =>
  html`<h1>${item.name}</h1>
    ${
      item.kind === "file"
        ? html`<div class="sheet">${text}</div>
            <p>${mayDownload ? "You can download it." : "It can be looked at here, but not downloaded."}</p>`
        : html`<p>You have a right to this folder.</p>`
    }`;

export const tooManyTries = html`<h1>Too many tries</h1>
  <p>Wait a quarter of an hour, then try again.</p>`;

import type { Shared } from './sharing'

/** The one page that a device sees which was not let in. */
export function pairPage(shared: Shared | undefined, said = ''): string {
  const authority = shared?.authority
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Pair this device \u00b7 Iron Hush</title>
<style>
  body { margin: 0; padding: 24px; max-width: 34rem; background: #f5f1e8; color: #20242a; font: 17px/1.5 sans-serif }
  @media (prefers-color-scheme: dark) { body { background: #16181b; color: #e6e1d6 } }
  h1 { font-size: 22px } h2 { font-size: 18px; margin-top: 32px } li { margin: 8px 0 } code { font-size: 13px; overflow-wrap: anywhere }
  label { display: block; margin: 14px 0 4px; font-weight: 600 }
  input, button { font: inherit; min-height: 48px; width: 100%; box-sizing: border-box; padding: 0 12px; border: 1px solid; border-radius: 2px }
  #code { font-size: 26px; letter-spacing: .3em } button { margin-top: 18px; background: #20242a; color: #f5f1e8 }
  .said { border-left: 4px solid #a33b1e; padding-left: 10px } a { color: inherit }
</style>
</head>
<body>
<main>
<h1>Pair this device</h1>
${said ? `<p class="said" role="alert">${escaped(said)}</p>` : ''}
<form method="post" action="/pair">
  <label for="code">Code on the laptop\u2019s screen (Menu, Share)</label>
  <input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" maxlength="7" required autofocus>
  <label for="name">What this device is called</label>
  <input id="name" name="name" value="Phone" maxlength="40" required>
  <button>Pair</button>
</form>
${
  authority
    ? `<h2>So that this device trusts the laptop</h2>
<ol>
  <li><a href="/pair/authority.crt">Take the laptop\u2019s certificate</a> and install it as trusted in this device\u2019s settings.</li>
  <li>Its SHA-256 fingerprint must be the one on the laptop\u2019s screen:<br><code>${escaped(authority.fingerprint)}</code></li>
  <li>Open this page again: the warning is gone, and the pages open without the network.</li>
</ol>`
    : ''
}
</main>
</body>
</html>`
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`)

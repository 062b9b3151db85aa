/** What a device sees that is not paired: a page by itself, as nothing of the application is handed out yet. */
export function pairPage({ code = '', name = '', error }: { code?: string; name?: string; error?: string }): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Pair this device with Nitidus</title>
<style>
body { margin: 0; background: #f7f6f3; color: #1d1d1b; font: 17px/1.45 'Source Sans 3 Variable', 'Source Sans 3', sans-serif; }
main { max-width: 26rem; margin: 0 auto; padding: 1.5rem 1rem; }
h1 { margin: 0 0 0.5rem; font-size: 1.5rem; font-weight: 600; }
p { margin: 0 0 1rem; color: #5f5e5a; }
label { display: block; margin: 1rem 0 0.3rem; font-weight: 600; }
input { box-sizing: border-box; width: 100%; padding: 0.7rem; border: 1px solid #8a8984; border-radius: 3px; background: #fff; font: inherit; }
input[name=code] { font-size: 1.5rem; letter-spacing: 0.12em; font-variant-numeric: tabular-nums; }
button { margin-top: 1.4rem; width: 100%; padding: 0.9rem; border: 0; border-radius: 3px; background: #00665a; color: #fff; font: inherit; font-weight: 600; }
[role=alert] { padding: 0.7rem 0.9rem; border-left: 4px solid #a01c10; background: #fbecea; color: #7d150b; }
</style>
</head>
<body>
<main>
<h1>Pair this device</h1>
<p>On the computer that Nitidus runs on, open Phone and choose “Pair a device”. Type the code that it shows.</p>
${error ? `<p role="alert">${escaped(error)}</p>` : ''}
<form method="post" action="/pair">
<label for="code">Code</label>
<input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="20" value="${escaped(code)}">
<label for="name">What to call this device</label>
<input id="name" name="name" required maxlength="60" value="${escaped(name || 'Phone')}">
<button type="submit">Pair</button>
</form>
</main>
</body>
</html>
`
}

const escaped = (text: string) => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`)

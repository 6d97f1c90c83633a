"""The page on which one signs in, and what it says."""

from html import escape

SIGNED_OUT = "You are not signed in on this device. Open /sign-in."
LOOKS_ONLY = "This device may look, not change. Sign in with the passphrase to work on it."
HOST = "the computer with the shop"
WRONG = "That is not the passphrase."
OLD_INVITATION = "That code was used already, or is older than ten minutes. Make a new one, or type the passphrase."
TOO_MANY = "Too many sign in at once. Try again in a minute."
OPEN = "Anybody on this network can see and change the shop: it was started with --open."
IN_THE_CLEAR = "What is sent goes in the clear: use it on a network of your own. docs/running.md tells of TLS."
SET = "The passphrase is set. Every device has to sign in with it."
REMOVED = "The passphrase is taken back."
NEW_PASSPHRASE = "A passphrase for the network, 8 characters or more"
NEEDS_PASSPHRASE = (
    "On a network the shop asks for a passphrase, and none is set. Set one with `valleywind passphrase`, or start with "
    "--open to let everybody in."
)

_STYLE = """
:root { color-scheme: light dark; --ground: #f4f0e8; --paper: #fdfcf8; --ink: #16201c; --soft: #5c665f; --line: #8a9890;
  --cast: #2f4a45; --wrong: #a13f2c }
@media (prefers-color-scheme: dark) { :root { --ground: #161d1b; --paper: #1f2825; --ink: #eeece4; --soft: #a9b3ad;
  --line: #5d6a64; --cast: #4a7a70; --wrong: #e58a74 } }
* { box-sizing: border-box } body { margin: 0; min-height: 100vh; display: grid; place-items: center; padding: 16px;
  background: var(--ground); color: var(--ink); font: 18px/1.45 system-ui, sans-serif }
form { width: 100%; max-width: 26rem; padding: 24px; border: 1px solid var(--line); background: var(--paper) }
h1 { margin: 0 0 4px; font-size: 26px } p { margin: 0 0 16px; color: var(--soft) }
.wrong { color: var(--wrong); font-weight: bold } label { display: block; margin-top: 12px; font-size: 16px }
input { width: 100%; height: 52px; margin-top: 4px; padding: 0 12px; border: 2px solid var(--line); border-radius: 3px;
  background: var(--ground); color: inherit; font: inherit }
button { width: 100%; height: 60px; margin-top: 20px; border: 0; border-radius: 3px; background: var(--cast);
  color: #fff; font: bold 19px system-ui, sans-serif } a { color: inherit }
:focus-visible { outline: 3px solid #b0782a; outline-offset: 2px }
"""


def sign_in_page(shop: str, onward: str, code: str, name: str, wrong: str) -> str:
    """The page as HTML, without a script. onward: the path to go on to; code: that of the invitation which led here,
    empty without one; wrong: what was wrong, empty for nothing."""
    by_pass = bool(code) and not wrong
    asks = (
        f'<input type="hidden" name="code" value="{escape(code)}">'
        if by_pass
        else '<label>Passphrase<input type="password" name="passphrase" autocomplete="current-password" required '
        'autofocus maxlength="200"></label>'
    )
    problem = f'<p class="wrong" role="alert">{escape(wrong)}</p>' if wrong else ""
    return f"""<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Sign in: Valleywind</title>
<meta name="viewport" content="width=device-width, initial-scale=1"><style>{_STYLE}</style></head><body>
<form method="post" action="/sign-in"><h1>Valleywind</h1><p>{escape(shop)}</p>
{problem}{asks}
<label>Name of this device, if you like<input name="name" maxlength="60" value="{escape(name)}"
placeholder="tablet at the lathe"></label><input type="hidden" name="next" value="{escape(onward)}">
<button>Sign in</button><p style="margin:16px 0 0">Signed in already? <a href="{escape(onward)}">Go on</a></p>
</form></body></html>"""

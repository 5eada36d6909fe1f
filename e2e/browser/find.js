// Finds what a person would: by the name that stands on it or beside it.
(() => {
  const groups = {
    click:
      'button, a, [role=button], [role=option], [role=menuitem], [role=switch], input[type=checkbox], input[type=radio], tr',
    field: 'input:not([type=checkbox]):not([type=file]), textarea',
    list: '[role=combobox]',
    option: '[role=option]',
  };

  // The page is about to change under whoever looks at it.
  const busy = '[aria-busy=true], main[data-busy=true]';

  const text = (e) => e.textContent.replace(/\s+/g, ' ').trim();

  const nameOf = (e) => {
    const label = e.getAttribute('aria-label');
    if (label) return label;
    const by = e.getAttribute('aria-labelledby');
    if (by) {
      const ids = by.split(' ').map((id) => document.getElementById(id));
      // A list is labelled by its label first and its own value after.
      const other = ids.filter((l) => l && l !== e);
      if (other.length) return other.map(text).join(' ');
    }
    if (e.labels && e.labels.length) return [...e.labels].map(text).join(' ');
    return text(e);
  };

  const usable = (e) =>
    e.getClientRects().length > 0 &&
    !e.closest('[aria-hidden=true], [inert]') &&
    !e.disabled &&
    e.getAttribute('aria-disabled') !== 'true';

  // Everything that goes by a name or, where nothing does, begins with it.
  const called = (group, name) => {
    const all = [...document.querySelectorAll(groups[group])].filter(usable);
    // A sheet of the library is called by its heading, whatever stands below.
    const headed = (e) => [...e.querySelectorAll('h2, h3')].some((h) => text(h) === name);
    const exact = all.filter((e) => nameOf(e) === name || headed(e));
    return exact.length ? exact : all.filter((e) => nameOf(e).startsWith(name));
  };

  // What goes by a name, null while nothing does, or while it is not clear which is meant.
  window.cressaFind = (group, name) => {
    const found = called(group, name);
    unclear = found.length > 1 ? `\n${name} is ambiguous: ${found.map(nameOf).join(' | ')}` : '';
    return found.length === 1 ? found[0] : null;
  };
  let unclear = '';

  // What the page says, line by line and cell by cell.
  const lines = () => document.body.innerText.split(/[\n\t]+/).map((l) => l.trim());

  // Whether the page says just this, in a line of its own.
  window.cressaShows = (text) => lines().includes(text);

  // Whether the page says this somewhere, as whole words: 1 of 219 is not in 21 of 219.
  window.cressaMentions = (text) => {
    const literal = text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
    return new RegExp(`(?<![\\p{L}\\p{N}])${literal}(?![\\p{L}\\p{N}])`, 'u').test(document.body.innerText);
  };

  const belongs = (top, e) =>
    !!top && !!e && (e.contains(top) || [...(e.labels || [])].some((l) => l.contains(top)));

  // The middle of an element once it has come to rest, null while it is covered or moving, or the
  // page is about to change under it.
  window.cressaSpot = (e) => {
    if (!e || document.querySelector(busy)) return null;
    e.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    // A link that runs over two lines is pressed on the first: between them it is not there.
    const box = e.getClientRects()[0] ?? e.getBoundingClientRect();
    const at = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
    const reached = belongs(document.elementFromPoint(at.x, at.y), e);
    const before = e.cressaBox;
    e.cressaBox = `${box.left} ${box.top}`;
    aim = e;
    window.cressaHit = false;
    return reached && before === e.cressaBox ? at : null;
  };

  // What the page is and shows, for the report of a test that waited in vain.
  window.cressaState = () => {
    const about = document.querySelector(busy) ? ' (busy)' : '';
    const box = aim ? ` aimed at ${aim.cressaBox}` : '';
    return `${location.pathname}${about}${box} ${document.visibilityState}${unclear}\n${document.body.innerText}`;
  };

  // Whether the last press of the mouse reached what it was aimed at: the page may have moved
  // between the look and the press. Nothing yet on a page that has just been loaded.
  window.cressaHit = null;
  let aim = null;
  const aimed = (event) => {
    window.cressaHit = belongs(event.target, aim);
  };
  document.addEventListener('mousedown', aimed, true);
})();

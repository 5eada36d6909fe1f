// Finds what a person would: by the name that stands on it or beside it.
(() => {
  const groups = {
    click:
      'button, a, [role=button], [role=option], [role=menuitem], [role=switch], input[type=checkbox], input[type=radio], tr',
    field: 'input:not([type=checkbox]):not([type=file]), textarea',
    list: '[role=combobox]',
    option: '[role=option]',
  };

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
    !e.classList.contains('Mui-disabled');

  window.cressaFind = (group, name) => {
    const all = [...document.querySelectorAll(groups[group])].filter(usable);
    const exact = all.find((e) => nameOf(e) === name);
    return exact || all.find((e) => nameOf(e).startsWith(name)) || null;
  };

  const belongs = (top, e) =>
    !!top && !!e && (e.contains(top) || [...(e.labels || [])].some((l) => l.contains(top)));

  // The middle of an element once it has come to rest, null while it is covered or moving, or the
  // page is about to change under it.
  window.cressaSpot = (e) => {
    if (!e || document.querySelector('[aria-busy=true]')) return null;
    e.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    // A link that runs over two lines is pressed on the first: between them it is not there.
    const box = e.getClientRects()[0] ?? e.getBoundingClientRect();
    const at = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
    const reached = belongs(document.elementFromPoint(at.x, at.y), e);
    const before = e.cressaBox;
    e.cressaBox = `${box.left} ${box.top}`;
    aim = e;
    return reached && before === e.cressaBox ? at : null;
  };

  // What the page is and shows, for the report of a test that waited in vain.
  window.cressaState = () => {
    const busy = document.querySelector('[aria-busy=true]') ? ' (busy)' : '';
    const box = aim ? ` aimed at ${aim.cressaBox}` : '';
    return `${location.pathname}${busy}${box} ${document.visibilityState}\n${document.body.innerText}`;
  };

  // Whether the last press of the mouse reached what it was aimed at: the page may have moved
  // between the look and the press.
  window.cressaHit = false;
  let aim = null;
  const aimed = (event) => {
    window.cressaHit = belongs(event.target, aim);
  };
  document.addEventListener('mousedown', aimed, true);
})();

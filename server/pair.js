// The code page: shows the code to the server, and goes on to the application.
document.getElementById('pair').addEventListener('submit', async (event) => {
  event.preventDefault();
  const fields = new FormData(event.target);
  const said = document.getElementById('said');
  said.textContent = '';
  try {
    const answer = await fetch('/api/pair', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ code: fields.get('code'), name: fields.get('name') }),
    });
    if (answer.ok) location.reload();
    else said.textContent = (await answer.json()).detail;
  } catch {
    said.textContent = 'Cressa does not answer. Is it still running?';
  }
});

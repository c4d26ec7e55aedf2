// Asks who is there, and for Today where that is their first page, while the application itself is still on its way: on a weak line that
// saves a second. Whoever asks for these first is given the answers; see src/web/app/api.ts.
(() => {
  // Somebody left while there was no network: the register must hear of that first of all.
  if (localStorage.getItem('malle.left') !== null) return;
  const ask = (path) => fetch(`/api${path}`, { headers: { accept: 'application/json' } });
  const showsToday = ({ state, person }) =>
    state === 'signed-in' &&
    (location.pathname === '/today' || (location.pathname === '/' && person.role !== 'pilot'));
  const session = ask('/session');
  const today = session
    .then((answer) => answer.clone().json())
    .then((told) => (showsToday(told) ? ask('/today') : null));
  const early = { '/session': session, '/today': today };
  for (const asked of Object.values(early)) asked.catch(() => undefined);
  window.malleEarly = early;
})();

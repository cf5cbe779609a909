/** Why the application cannot start, in one plain sentence each, with what to do. */

const words = (fault) =>
  `${fault?.code ?? ''} ${fault?.message ?? fault} ${fault?.cause?.code ?? ''} ${fault?.cause?.message ?? ''}`;

/**
 * @param {unknown} fault what was thrown while the database was opened or the server started
 * @returns {string} one sentence for the person who starts it
 */
export function startFault(fault) {
  const said = words(fault);
  const file = process.env.HOLLOW_FINCH_DB ?? 'var/hollow-finch.db';
  if (/EADDRINUSE/.test(said))
    return `Port ${process.env.PORT} is taken by another program: stop that one, or choose another port (PORT=4322 scripts/demo.sh).`;
  if (/EACCES.*listen|listen EACCES/.test(said))
    return `Port ${process.env.PORT} may not be used by this account: choose one above 1024 (PORT=4321 scripts/demo.sh).`;
  if (/\b401\b|\b403\b|[Uu]nauthori[sz]ed|JWT|[Tt]oken .*(?:wrong|missing|invalid|expired)/.test(said))
    return `The database at ${file} refuses the token: check HOLLOW_FINCH_DB_TOKEN.`;
  if (/ECONNREFUSED|ENOTFOUND|fetch failed|EAI_AGAIN/.test(said) && !file.startsWith('file:'))
    return `The database at ${file} does not answer: check the address (HOLLOW_FINCH_DB) and that it runs.`;
  if (/SQLITE_NOTADB|SQLITE_CORRUPT|malformed|not a database/.test(said))
    return `The database ${file} is damaged or is no database: put it aside and copy a backup to its place, or take another (HOLLOW_FINCH_DB=file:…). It was not changed.`;
  if (/SQLITE_FULL|ENOSPC|disk is full/.test(said))
    return `The disk with the database ${file} is full: make room on it and start again.`;
  if (/SQLITE_READONLY|EROFS|readonly/.test(said))
    return `The database ${file} can only be read: allow writing to it and to its folder, or take another (HOLLOW_FINCH_DB=file:…).`;
  if (/SQLITE_CANTOPEN|EACCES|EPERM|ENOTDIR|EEXIST|[Uu]nable to open/.test(said))
    return `The database ${file} cannot be opened: check that its folder is there and that this account may write to it.`;
  if (/SQLITE_BUSY|locked/.test(said))
    return `The database ${file} is held by another program: close that one and start again.`;
  // Of a fault in a fault the innermost says most; of what it says the first line.
  const [first] = String(fault?.cause?.message ?? fault?.message ?? fault)
    .trim()
    .split('\n');
  return `Hollow Finch cannot start (${first}). The database ${file} was left as it is.`;
}

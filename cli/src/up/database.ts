import pg from 'pg';

/** Makes a database if the server does not have it yet; a `fresh` one is made anew, without what was in it. */
export async function makeDatabase(adminUrl: string, name: string, fresh = false): Promise<void> {
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    if (fresh) await client.query(`drop database if exists ${pg.escapeIdentifier(name)} with (force)`);
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (!rowCount) await client.query(`create database ${pg.escapeIdentifier(name)}`);
  } finally {
    await client.end();
  }
}

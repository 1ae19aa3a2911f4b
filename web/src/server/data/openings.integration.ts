import '../../../../testing/provided.ts';
import pg from 'pg';
import { describe, expect, inject, it } from 'vitest';

const address = inject('address');

describe('what a bench opens with', () => {
  it('is the same however the database has come to store its rows: documents of the demo are all of one age', async () => {
    const client = new pg.Client({ connectionString: inject('databaseUrl') });
    await client.connect();
    const { rows } = await client.query(`select id, kind, demo from documents where demo is not null order by demo`);
    const tuning = rows.find(({ demo }) => demo === 'carrier-day-boots.tuning.json').id;
    const ground = rows.find(({ demo }) => demo === 'boardwalk.ground.json').id;
    for (let turn = 0; turn < rows.length; turn++) {
      // A row that is written goes to the end of its table; with and without an index, rows of one age come in another order.
      await client.query('update documents set name = name where id = $1', [rows[turn].id]);
      await client.query(turn % 2 === 0 ? 'analyze documents' : 'vacuum documents');
      const page = await (await fetch(`${address}/bench/${tuning}?ground=${ground}`)).text();
      expect(page, rows[turn].demo).toContain('A lap of the Boardwalk');
      const first = await fetch(address, { redirect: 'manual' });
      expect(first.headers.get('location')).toContain(tuning);
    }
    await client.end();
  });
});

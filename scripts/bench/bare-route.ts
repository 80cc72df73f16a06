/** The baseline of the register, in a process of its own as the server is: Express, one query, its rows as JSON, nothing else. */
import express from 'express';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';

const [databaseUrl, statements] = process.argv.slice(2) as [string, string];
const named = JSON.parse(statements) as Record<string, { text: string; values: unknown[] }>;
const pool = new pg.Pool({ connectionString: databaseUrl, max: 20 });
const app = express();
app.get('/:name', async (request, response) => {
  const { name } = request.params;
  response.json((await pool.query({ name, ...named[name]! })).rows);
});
const server = http.createServer(app);
server.listen(0, '127.0.0.1', () => process.send!((server.address() as AddressInfo).port));

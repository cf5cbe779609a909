/**
 * A small stand-in for a libSQL server at another address: the protocol's pipelines over HTTP, on one database in memory, for
 * those who bring the token. Each request is carried out whole before the next one.
 */
import Database from 'libsql';
import { createServer, type IncomingMessage, type Server } from 'node:http';

interface Value {
  readonly type: 'null' | 'integer' | 'float' | 'text' | 'blob';
  readonly value?: string | number;
  readonly base64?: string;
}
interface Statement {
  readonly sql?: string | null;
  readonly sql_id?: number | null;
  readonly args?: readonly Value[];
  readonly named_args?: readonly { readonly name: string; readonly value: Value }[];
}
type Condition =
  | { readonly type: 'ok' | 'error'; readonly step: number }
  | { readonly type: 'not'; readonly cond: Condition }
  | { readonly type: 'and' | 'or'; readonly conds: readonly Condition[] }
  | { readonly type: 'is_autocommit' };
interface Step {
  readonly stmt: Statement;
  readonly condition?: Condition | null;
}
interface Asked {
  readonly type: string;
  readonly stmt?: Statement;
  readonly batch?: { readonly steps: readonly Step[] };
  readonly sql?: string;
  readonly sql_id?: number;
}

const read = (value: Value): unknown =>
  value.type === 'null'
    ? null
    : value.type === 'integer'
      ? Number(value.value)
      : value.type === 'blob'
        ? Buffer.from(value.base64 ?? '', 'base64')
        : value.value;

const told = (value: unknown): Value =>
  value === null || value === undefined
    ? { type: 'null' }
    : typeof value === 'number'
      ? Number.isInteger(value)
        ? { type: 'integer', value: String(value) }
        : { type: 'float', value }
      : typeof value === 'bigint'
        ? { type: 'integer', value: String(value) }
        : value instanceof Uint8Array
          ? { type: 'blob', base64: Buffer.from(value).toString('base64') }
          : { type: 'text', value: String(value as string) };

/** A server with its own database; `address` and what it was asked without the right token. */
export class LibsqlServer {
  private readonly db = new Database(':memory:');
  private readonly server: Server;
  /** Statements that the present pipeline has told by number. */
  private readonly kept = new Map<number, string>();
  refused = 0;

  constructor(private readonly token: string) {
    this.server = createServer((request, response) => {
      void this.answer(request).then(({ status, body }) => {
        response.writeHead(status, { 'content-type': 'application/json' });
        response.end(JSON.stringify(body));
      });
    });
  }

  /** Listens; gives back its address. */
  listen(): Promise<string> {
    return new Promise((done) =>
      this.server.listen(0, '127.0.0.1', () => {
        const { port } = this.server.address() as { port: number };
        done(`http://127.0.0.1:${port}`);
      }),
    );
  }

  close(): void {
    this.server.closeAllConnections();
    this.server.close();
  }

  private async answer(request: IncomingMessage): Promise<{ status: number; body: unknown }> {
    if (request.headers.authorization !== `Bearer ${this.token}`) {
      this.refused++;
      return { status: 401, body: { message: 'The token is wrong or missing.' } };
    }
    if (request.method !== 'POST' || request.url !== '/v2/pipeline')
      return { status: request.url === '/v2' ? 200 : 404, body: {} };
    let text = '';
    for await (const part of request) text += String(part);
    const { requests } = JSON.parse(text) as { requests: readonly Asked[] };
    this.kept.clear();
    const results = requests.map((asked) => {
      try {
        return { type: 'ok', response: this.carryOut(asked) };
      } catch (fault) {
        return { type: 'error', error: errorOf(fault) };
      }
    });
    // Nothing is kept between two pipelines: a transaction that was left open is given up.
    if (this.db.inTransaction) this.db.exec('ROLLBACK');
    return { status: 200, body: { baton: null, base_url: null, results } };
  }

  private carryOut(asked: Asked): unknown {
    switch (asked.type) {
      case 'execute':
        return { type: 'execute', result: this.run(asked.stmt!) };
      case 'batch':
        return { type: 'batch', result: this.batch(asked.batch!.steps) };
      case 'sequence':
        this.db.exec(asked.sql!);
        return { type: 'sequence' };
      case 'store_sql':
        this.kept.set(asked.sql_id!, asked.sql!);
        return { type: 'store_sql' };
      case 'get_autocommit':
        return { type: 'get_autocommit', is_autocommit: !this.db.inTransaction };
      default:
        return { type: asked.type };
    }
  }

  private batch(steps: readonly Step[]): unknown {
    const results: unknown[] = [];
    const errors: unknown[] = [];
    const holds = (condition: Condition): boolean => {
      switch (condition.type) {
        case 'ok':
          return !!results[condition.step];
        case 'error':
          return !!errors[condition.step];
        case 'not':
          return !holds(condition.cond);
        case 'and':
          return condition.conds.every(holds);
        case 'or':
          return condition.conds.some(holds);
        case 'is_autocommit':
          return !this.db.inTransaction;
      }
    };
    steps.forEach(({ stmt, condition }, i) => {
      results[i] = errors[i] = null;
      if (condition && !holds(condition)) return;
      try {
        results[i] = this.run(stmt);
      } catch (fault) {
        errors[i] = errorOf(fault);
      }
    });
    return { step_results: results, step_errors: errors };
  }

  private run({ sql, sql_id: number, args = [], named_args: named = [] }: Statement): unknown {
    const statement = this.db.prepare(sql ?? this.kept.get(number!)!);
    const given: unknown[] =
      named.length > 0
        ? [Object.fromEntries(named.map(({ name, value }) => [name.replace(/^[:@$]/, ''), read(value)]))]
        : args.map(read);
    if (!statement.reader) {
      const { changes, lastInsertRowid } = statement.run(...given);
      return { cols: [], rows: [], affected_row_count: changes, last_insert_rowid: String(lastInsertRowid) };
    }
    const rows = statement.raw(true).all(...given) as unknown[][];
    return {
      cols: statement.columns().map(({ name }) => ({ name, decltype: null })),
      rows: rows.map((row) => row.map(told)),
      affected_row_count: 0,
      last_insert_rowid: null,
    };
  }
}

const errorOf = (fault: unknown) => {
  const { message, code } = fault as { message: string; code?: string };
  return { message, code: code ?? 'SQLITE_ERROR' };
};

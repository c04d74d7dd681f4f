import {
  readPagePlan,
  readStyleSheet,
  SiteLook,
  type DesignKind,
  type Designs,
  type PagePlan,
  type StyleSheet,
} from '@ukiyo/contracts';
import { shippedLooks, shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { DesignRow } from './models.ts';

interface Kept<Content> {
  id: string;
  version: number;
  ships: boolean;
  content: Content;
}
type ContentOf = {
  readonly sheets: StyleSheet;
  readonly plans: PagePlan;
  readonly looks: SiteLook;
};

interface DesignChange<Kind extends DesignKind> {
  readonly kind: Kind;
  readonly id: string;
  /** The one that was changed. */
  readonly version: number;
  readonly content: ContentOf[Kind];
}

/**
 * The style sheets, page plans and site looks of a project: those that ship, as the team has
 * changed them, and its own.
 */
export interface DesignStore {
  read(project: string, transaction?: Transaction): Promise<Designs>;
  /** A style sheet by its id; what ships where there is none by now. */
  sheet(project: string, id: string): Promise<StyleSheet>;
  /** Undefined when another version was saved since. Version 0 makes a new one. */
  save<Kind extends DesignKind>(
    project: string,
    design: DesignChange<Kind>,
    within?: Transaction,
  ): Promise<Kept<ContentOf[Kind]> | undefined>;
  /** What ships is there again as it ships. */
  remove(project: string, kind: DesignKind, id: string): Promise<boolean>;
}

const shipped: { readonly [Kind in DesignKind]: Readonly<Record<string, ContentOf[Kind]>> } = {
  sheets: shippedSheets,
  plans: shippedPlans,
  looks: shippedLooks,
};

/**
 * What is stored with what ships and is not changed; what was stored by an earlier version and
 * cannot be read gives way to what ships.
 */
function merged<Content>(
  rows: readonly DesignRow[],
  ships: Readonly<Record<string, Content>>,
  parse: (content: unknown) => Content | undefined,
): Kept<Content>[] {
  const stored = rows.flatMap(({ id, version, content }) => {
    const read = parse(content);
    return read === undefined
      ? []
      : [{ id, version, ships: ships[id] !== undefined, content: read }];
  });
  const untouched = Object.entries(ships).flatMap(([id, content]) =>
    stored.some((one) => one.id === id) ? [] : [{ id, version: 0, ships: true, content }],
  );
  return [...untouched, ...stored].sort((a, b) => Number(b.ships) - Number(a.ships));
}

export function designStore({ sequelize, models }: Database): DesignStore {
  const { designs, projects } = models;
  const store: DesignStore = {
    async read(project, transaction) {
      const found = await designs.findAll({
        where: { projectId: project },
        order: [['id', 'ASC']],
        ...(transaction ? { transaction } : {}),
      });
      const rows = found.map((row) => row.get());
      const of = (kind: DesignKind): DesignRow[] => rows.filter((row) => row.kind === kind);
      return {
        sheets: merged(of('sheets'), shippedSheets, (content) => readStyleSheet(content).data),
        plans: merged(of('plans'), shippedPlans, (content) => readPagePlan(content).data),
        looks: merged(of('looks'), shippedLooks, (content) => SiteLook.safeParse(content).data),
      };
    },
    sheet: async (project, id) =>
      (await store.read(project)).sheets.find((one) => one.id === id)?.content ??
      shippedSheets['workshop']!,
    async save(project, { kind, id, version, content }, within) {
      const act = async (transaction: Transaction) => {
        // One change after the other: the project's row is held.
        await projects.findOne({
          where: { id: project },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        const where = { projectId: project, kind, id };
        const known = (await designs.findOne({ where, transaction }))?.get();
        if ((known?.version ?? 0) !== version) return undefined;
        await designs.upsert({ ...where, version: version + 1, content }, { transaction });
        return { id, version: version + 1, ships: shipped[kind][id] !== undefined, content };
      };
      return within ? act(within) : sequelize.transaction(act);
    },
    remove: async (project, kind, id) =>
      (await designs.destroy({ where: { projectId: project, kind, id } })) > 0,
  };
  return store;
}

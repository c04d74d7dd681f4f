interface Migration {
  readonly name: string;
  readonly sql: string;
}

/** Every change of the schema, oldest first. A migration that has landed is never edited. */
export const migrations: readonly Migration[] = [
  {
    name: '0001-foundation',
    sql: `
      CREATE TABLE people (
        id uuid PRIMARY KEY, name text NOT NULL, email text NOT NULL UNIQUE,
        password_hash text NOT NULL, role text NOT NULL,
        active boolean NOT NULL DEFAULT true, created_at timestamptz NOT NULL DEFAULT now());
      CREATE TABLE sessions (
        id text PRIMARY KEY, person_id uuid NOT NULL REFERENCES people ON DELETE CASCADE,
        expires_at timestamptz NOT NULL, created_at timestamptz NOT NULL DEFAULT now());
      CREATE INDEX sessions_person ON sessions (person_id);
      CREATE TABLE projects (id uuid PRIMARY KEY, name text NOT NULL,
        locale text NOT NULL DEFAULT 'en', created_at timestamptz NOT NULL DEFAULT now());
      CREATE TABLE items (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE, id text NOT NULL,
        kind text NOT NULL, type text NOT NULL, folder text NOT NULL, name text NOT NULL,
        title text NOT NULL, short_description text NOT NULL, text text NOT NULL,
        search_text text NOT NULL, word_count integer NOT NULL, problems jsonb NOT NULL,
        version integer NOT NULL DEFAULT 1, updated_at timestamptz NOT NULL DEFAULT now(),
        updated_by text NOT NULL,
        search_vector tsvector
          GENERATED ALWAYS AS (to_tsvector('simple', title || ' ' || search_text)) STORED,
        PRIMARY KEY (project_id, id));
      CREATE UNIQUE INDEX items_path ON items (project_id, folder, name);
      CREATE INDEX items_title ON items (project_id, lower(title));
      CREATE INDEX items_search ON items USING gin (search_vector);
      CREATE TABLE revisions (
        project_id uuid NOT NULL, item_id text NOT NULL, version integer NOT NULL,
        text text NOT NULL, hash text NOT NULL, note text NOT NULL DEFAULT '',
        author text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (project_id, item_id, version));
      CREATE TABLE links (project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        source_id text NOT NULL, target_id text NOT NULL, PRIMARY KEY (project_id, source_id,
        target_id));
      CREATE INDEX links_target ON links (project_id, target_id);
      CREATE TABLE assets (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE, id text NOT NULL,
        folder text NOT NULL, name text NOT NULL, media_type text NOT NULL,
        size integer NOT NULL, width real, height real, hash text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (project_id, id));
      CREATE UNIQUE INDEX assets_path ON assets (project_id, folder, name);
      CREATE TABLE lenses (project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        id text NOT NULL, name text NOT NULL, rules jsonb NOT NULL, PRIMARY KEY (project_id, id));
      CREATE TABLE editions (
        id uuid PRIMARY KEY, project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        name text NOT NULL, output text NOT NULL, map text NOT NULL, lens text,
        variables jsonb NOT NULL, locale text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now());
      CREATE TABLE impressions (
        id uuid PRIMARY KEY, project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        edition uuid NOT NULL REFERENCES editions ON DELETE CASCADE, number integer NOT NULL,
        state text NOT NULL, progress jsonb NOT NULL, problems jsonb NOT NULL,
        figures jsonb NOT NULL, inputs jsonb NOT NULL, person text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(), heartbeat_at timestamptz,
        finished_at timestamptz, UNIQUE (edition, number));
    `,
  },
  {
    name: '0002-facets',
    sql: `
      CREATE TABLE facets (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE, name text NOT NULL,
        label text NOT NULL, value_list jsonb NOT NULL, position integer NOT NULL,
        PRIMARY KEY (project_id, name));
    `,
  },
  {
    name: '0003-live',
    sql: `
      CREATE TABLE live_documents (
        project_id uuid NOT NULL, item_id text NOT NULL, epoch uuid NOT NULL, schema text NOT NULL,
        version integer NOT NULL, document json NOT NULL, item_version integer NOT NULL,
        PRIMARY KEY (project_id, item_id), UNIQUE (project_id, item_id, epoch),
        FOREIGN KEY (project_id, item_id) REFERENCES items (project_id, id) ON DELETE CASCADE);
      CREATE TABLE live_steps (
        project_id uuid NOT NULL, item_id text NOT NULL, epoch uuid NOT NULL,
        version integer NOT NULL, step json NOT NULL, client text NOT NULL, person text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (project_id, item_id, epoch,
        version),
        FOREIGN KEY (project_id, item_id, epoch) REFERENCES live_documents (project_id, item_id,
          epoch) ON DELETE CASCADE);
    `,
  },
  {
    name: '0004-agreements',
    sql: `
      CREATE TABLE agreements (
        project_id uuid PRIMARY KEY REFERENCES projects ON DELETE CASCADE,
        version integer NOT NULL, rules jsonb NOT NULL, facts jsonb NOT NULL, words jsonb NOT NULL);
    `,
  },
  {
    name: '0005-facet-uses',
    sql: `
      CREATE TABLE facet_uses (
        project_id uuid NOT NULL, item_id text NOT NULL, facet text NOT NULL, value text NOT NULL,
        count integer NOT NULL, PRIMARY KEY (project_id, item_id, facet, value),
        FOREIGN KEY (project_id, item_id) REFERENCES items (project_id, id) ON DELETE CASCADE);
      CREATE INDEX facet_uses_value ON facet_uses (project_id, facet, value);
      ALTER TABLE projects ADD COLUMN facets_version integer NOT NULL DEFAULT 0;
    `,
  },
  {
    name: '0006-lenses-through-lenses',
    sql: `ALTER TABLE lenses ADD COLUMN through jsonb NOT NULL DEFAULT '[]';`,
  },
  {
    name: '0007-uses',
    sql: `
      DROP TABLE links;
      CREATE TABLE item_uses (
        project_id uuid NOT NULL, source_id text NOT NULL, manner text NOT NULL,
        target text NOT NULL, part text NOT NULL, count integer NOT NULL,
        PRIMARY KEY (project_id, source_id, manner, target, part),
        FOREIGN KEY (project_id, source_id) REFERENCES items (project_id, id) ON DELETE CASCADE);
      CREATE INDEX item_uses_target ON item_uses (project_id, target, manner);
    `,
  },
  {
    name: '0008-conditions',
    sql: `ALTER TABLE items ADD COLUMN conditions jsonb NOT NULL DEFAULT '{}';`,
  },
  {
    name: '0009-alternates',
    sql: `
      ALTER TABLE items ADD COLUMN alternate_of text;
      CREATE INDEX items_alternate_of ON items (project_id,
        alternate_of) WHERE alternate_of IS NOT NULL;
      ALTER TABLE assets ADD COLUMN alternate_of text,
        ADD COLUMN conditions jsonb NOT NULL DEFAULT '{}';
    `,
  },
  {
    name: '0010-addresses',
    sql: `ALTER TABLE editions ADD COLUMN address text NOT NULL DEFAULT '';`,
  },
  {
    name: '0011-facts',
    sql: `ALTER TABLE items ADD COLUMN facts jsonb NOT NULL DEFAULT '{}';`,
  },
  {
    name: '0012-designs',
    sql: `
      CREATE TABLE designs (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE, kind text NOT NULL,
        id text NOT NULL, version integer NOT NULL, content json NOT NULL,
        PRIMARY KEY (project_id, kind, id));
      ALTER TABLE editions ADD COLUMN sheet text NOT NULL DEFAULT 'workshop',
        ADD COLUMN plan text NOT NULL DEFAULT 'a4-margin';
    `,
  },
  {
    name: '0013-bars',
    sql: `ALTER TABLE editions ADD COLUMN since uuid;`,
  },
  {
    name: '0014-edition-facts',
    sql: `ALTER TABLE editions ADD COLUMN facts jsonb NOT NULL DEFAULT '{}';`,
  },
  {
    name: '0015-publishing',
    sql: `
      ALTER TABLE editions ADD COLUMN choices jsonb NOT NULL DEFAULT '[]',
        ADD COLUMN stops jsonb NOT NULL DEFAULT
        '["links","outside","topics","borrowed","variables","images"]',
        ADD COLUMN keeps integer NOT NULL DEFAULT 20,
        ADD COLUMN look text NOT NULL DEFAULT 'harbour';
      ALTER TABLE impressions ADD COLUMN name text NOT NULL DEFAULT '',
        ADD COLUMN notes jsonb NOT NULL DEFAULT '[]', ADD COLUMN seal jsonb,
        ADD COLUMN stops jsonb NOT NULL DEFAULT '[]',
        ADD COLUMN again uuid, ADD COLUMN fingerprint text NOT NULL DEFAULT '';
    `,
  },
  {
    name: '0016-outputs',
    sql: `ALTER TABLE editions ADD COLUMN naming text NOT NULL DEFAULT 'ids',
        ADD COLUMN holds jsonb NOT NULL DEFAULT '[]', ADD COLUMN start text NOT NULL DEFAULT '',
        ADD COLUMN locales jsonb NOT NULL DEFAULT '[]', ADD COLUMN nightly text NOT NULL DEFAULT '';
      ALTER TABLE agreements ADD COLUMN synonyms jsonb NOT NULL DEFAULT '{}';`,
  },
  {
    name: '0017-outside',
    sql: `
      CREATE TABLE tokens (
        id uuid PRIMARY KEY, person_id uuid NOT NULL REFERENCES people ON DELETE CASCADE,
        name text NOT NULL, access text NOT NULL, hash text NOT NULL UNIQUE,
        created_at timestamptz NOT NULL, used_at timestamptz);
      CREATE TABLE notices (
        id uuid PRIMARY KEY, project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        kind text NOT NULL, target text NOT NULL, events jsonb NOT NULL,
        edition uuid REFERENCES editions ON DELETE CASCADE, secret text NOT NULL);
      CREATE TABLE outbox (
        id uuid PRIMARY KEY, project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE,
        at timestamptz NOT NULL, kind text NOT NULL, target text NOT NULL,
        subject text NOT NULL, body text NOT NULL, signature text NOT NULL);
      CREATE INDEX outbox_at ON outbox (project_id, at);
      ALTER TABLE impressions ADD COLUMN locale text;
      ALTER TABLE editions ADD COLUMN clock_at timestamptz;
    `,
  },
  {
    name: '0018-folders',
    sql: `ALTER TABLE editions ADD COLUMN folders text NOT NULL DEFAULT 'one';`,
  },
  {
    name: '0019-clock',
    sql:
      'UPDATE editions SET clock_at = now() WHERE clock_at IS NULL; ALTER TABLE editions ALTER ' +
      'COLUMN clock_at SET NOT NULL;',
  },
  {
    name: '0020-sources',
    sql: `
      CREATE TABLE linked_sources (
        project_id uuid NOT NULL REFERENCES projects ON DELETE CASCADE, folder text NOT NULL,
        is_linked boolean NOT NULL DEFAULT true, files jsonb NOT NULL DEFAULT '[]',
        read_at timestamptz, PRIMARY KEY (project_id, folder));
      ALTER TABLE editions ADD COLUMN reads_sources boolean NOT NULL DEFAULT false;
    `,
  },
  {
    name: '0021-access',
    sql: `
      ALTER TABLE sessions ADD COLUMN used_at timestamptz NOT NULL DEFAULT now(),
        ADD COLUMN agent text NOT NULL DEFAULT '';
      ALTER TABLE tokens ADD COLUMN expires_at timestamptz NOT NULL DEFAULT now() + interval '90
        days';
      UPDATE tokens SET access = 'build' WHERE access = 'publish';
      CREATE TABLE sign_in_attempts (key text PRIMARY KEY, failures integer NOT NULL,
        last_at timestamptz NOT NULL, next_at timestamptz NOT NULL);
      CREATE FUNCTION access_changed() RETURNS trigger LANGUAGE plpgsql AS $body$
        BEGIN PERFORM pg_notify('ukiyo_access',
          to_jsonb(OLD) ->> TG_ARGV[0]); RETURN NULL; END $body$;
      CREATE TRIGGER people_access AFTER UPDATE OF role,
        active OR DELETE ON people FOR EACH ROW EXECUTE FUNCTION access_changed('id');
      CREATE TRIGGER sessions_access AFTER UPDATE OF expires_at OR DELETE ON sessions FOR EACH ROW
        EXECUTE FUNCTION access_changed('person_id');
      CREATE TRIGGER tokens_access AFTER UPDATE OF expires_at OR DELETE ON tokens FOR EACH ROW
        EXECUTE FUNCTION access_changed('person_id');
    `,
  },
  {
    // Files get an ending of what they are, and sizes that can be drawn: earlier versions took both
    // as they were claimed.
    name: '0022-assets',
    sql: `
      UPDATE assets SET width = NULL,
        height = NULL WHERE NOT (width > 0 AND width <= 100000 AND height > 0 AND height <= 100000);
      ALTER TABLE assets ADD CONSTRAINT assets_size CHECK (width > 0 AND width <= 100000 AND height
        > 0 AND height <= 100000);
      WITH endings (media_type, pattern, ending) AS (VALUES
        ('image/png', '[.]png$', '.png'), ('image/jpeg', '[.]jpe?g$', '.jpg'),
        ('image/gif', '[.]gif$', '.gif'),
        ('image/webp', '[.]webp$', '.webp'), ('image/svg+xml', '[.]svg$', '.svg'),
        ('video/mp4', '[.]mp4$', '.mp4'),
        ('video/webm', '[.]webm$', '.webm'), ('audio/mpeg', '[.]mp3$', '.mp3'))
      UPDATE assets a SET name = a.id || '-' || left(a.hash, 8) || e.ending FROM endings e
        WHERE e.media_type = a.media_type AND a.name !~* e.pattern;
    `,
  },
  {
    name: '0023-clashes',
    sql: `ALTER TABLE lenses ADD COLUMN clash jsonb;`,
  },
];

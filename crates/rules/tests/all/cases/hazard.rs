//! Code that lets others in.

use crate::cases::bench::Bench;

#[test]
fn queries_joined_from_strings() {
    let bench = Bench::python("sql-by-joining");
    bench.finds(
        "
        def find(db, name, columns):
            db.execute(«f\"SELECT * FROM boats WHERE name = '{name}'\")
            db.execute(«'SELECT * FROM boats WHERE name = ' + name)
            db.execute(«'SELECT * FROM boats WHERE name = %s' % name)
            db.execute(«'DELETE FROM boats WHERE name = {}'.format(name))
            db.execute('SELECT * FROM boats WHERE name = ?', (name,))
            db.execute('SELECT * FROM boats ' + 'WHERE depth > 3')
            print(f'Select a boat from {name}')
            db.execute(«f\"INSERT INTO boats VALUES ('Tern', {name})\")
        ",
    );
    bench.passes(&["
        TABLE = 'boats'
        COLUMNS = ('name', 'depth')

        def find(db, names, deep, depth):
            db.execute('SELECT * FROM ' + TABLE)
            db.execute(f\"SELECT {', '.join(COLUMNS)} FROM {TABLE} WHERE name = %s\", names)
            db.execute('SELECT * FROM boats WHERE depth > %s' % int(depth))
            db.execute(f\"SELECT * FROM boats WHERE name IN ({', '.join(['?'] * len(names))})\", names)
            db.execute('SELECT * FROM boats WHERE depth = {}'.format(4 if deep else DEPTH))
        "]);
    let of_table = ["what is put into the query may be the name of a table"];
    bench.doubts("def find(db, table):\n    db.execute(f'SELECT * FROM {table} WHERE name = %s', (1,))\n", &of_table);
    Bench::javascript("sql-by-joining").finds(
        "
        export function find(db, name) {
          db.query(«`SELECT * FROM boats WHERE name = '${name}'`);
          db.query(«'SELECT * FROM boats WHERE name = ' + name);
          db.query('SELECT * FROM boats WHERE name = $1', [name]);
          return sql`SELECT * FROM boats WHERE name = ${name}`;
        }
        ",
    );
}

#[test]
fn commands_given_to_a_shell() {
    let bench = Bench::python("shell-with-text");
    bench.finds(
        "
        import os
        import subprocess

        def moor(boat):
            «os.system(f'moor {boat}')
            os.system('moor all')
            «subprocess.run('moor ' + boat, shell=True)
            subprocess.run(['moor', boat])
            subprocess.run('moor all', shell=True)
            subprocess.run(boat)
        ",
    );
}

#[test]
fn strings_run_as_code() {
    Bench::python("eval-call").finds(
        "
        def read(text):
            «eval(text)
            «exec(text)
            eval('1 + 1')
            literal_eval(text)
            return text.eval()
        ",
    );
    Bench::python("eval-call").passes(&["def read(eval, text):\n    return eval(text)\n"]);
    Bench::javascript("eval-call").finds(
        "
        export function read(text) {
          «eval(text);
          setTimeout(() => read(text), 10);
          return «new Function('depth', text);
        }
        ",
    );
}

#[test]
fn markup_built_from_strings() {
    Bench::javascript("html-by-joining").finds(
        "
        export function show(quay, count) {
          list.innerHTML = «`<li>${quay.name}</li>`;
          list.innerHTML = «'<li>' + quay.name + '</li>';
          list.innerHTML = '<li>north</li>';
          list.innerHTML = `<li>${escapeHtml(quay.name)}</li>`;
          list.innerHTML = `<li>${quays.length}</li>`;
          list.innerHTML = «`<li>${escapeHtml(quay.name)} ${quay.note}</li>`;
          list.innerHTML = `<li>${count > 1 ? 'boats' : 'boat'} ${Math.round(count)} ${-count}</li>`;
          list.innerHTML = '<ul>' + quays.map((one) => `<li>${escapeHtml(one.name)}</li>`).join('') + '</ul>';
          list.insertAdjacentHTML('beforeend', «'<li>' + quay.name + '</li>');
          document.write(«`<li>${quay.name}</li>`);
          list.textContent = `<li>${quay.name}</li>`;
        }
        ",
    );
}

#[test]
fn data_that_runs_when_it_is_read() {
    Bench::python("unsafe-load").finds(
        "
        import marshal
        import pickle
        import yaml

        def read(data):
            «pickle.loads(data)
            marshal.loads(data)
            «yaml.load(data)
            yaml.safe_load(data)
            yaml.load(data, Loader=yaml.SafeLoader)
            «yaml.load(data, yaml.Loader)
            dumped = pickle.dumps(data)
            pickle.loads(dumped)
            return json.loads(data)
        ",
    );
    let unknown = ["the loader is not known here"];
    Bench::python("unsafe-load")
        .doubts("import yaml\ndef read(data, Loader):\n    yaml.load(data, Loader)\n", &unknown);
    Bench::python("unsafe-load").doubts("import yaml\ndef read(data, how):\n    yaml.load(data, **how)\n", &unknown);
}

#[test]
fn digests_that_can_be_forged() {
    let bench = Bench::python("weak-digest");
    bench.finds(
        "
        import hashlib

        def sign(password, data):
            «hashlib.md5(password)
            hashlib.sha256(password)
            «hashlib.sha1(password)
            hashlib.md5(data, usedforsecurity=False)
            return hashlib.new('sha256', data)
        ",
    );
}

#[test]
fn permissions_for_everybody() {
    Bench::python("wide-permission").finds(
        "
        import os

        os.chmod('tides', «0o777)
        os.chmod('tides', «0o666)
        os.chmod('tides', 0o755)
        os.chmod('tides', mode)
        ",
    );
    Bench::shell("wide-permission").finds(
        "
        #!/bin/sh
        chmod «777 tides
        chmod -R «a+w tides
        chmod 755 tides
        chmod u+w tides
        chmod +x tides
        ",
    );
}

#[test]
fn temporary_files_that_others_can_guess() {
    Bench::python("temp-file-by-name").finds(
        "
        import tempfile

        «tempfile.mktemp()
        tempfile.mkstemp()
        tempfile.NamedTemporaryFile()
        ",
    );
}

#[test]
fn secrets_among_the_sources() {
    let bench = Bench::python("secret-in-source");
    bench.finds(
        "
        password = «'tR4vEl9x2Qq27bZ81'
        password = 'changeme'
        password = ''
        password = os.environ['PASSWORD']
        password_field = 'password'
        PASSWORD_HELP = 'Enter your password'
        ",
    );
}

/// Rules that are asked about calls by a name are asked wherever an import may have given it another one.
#[test]
fn imports_under_another_name() {
    Bench::python("unsafe-load").finds(
        "
        from pickle import loads as read
        import yaml as tables

        def sail(data):
            «read(data)
            «tables.load(data)
            write(data)
        ",
    );
    Bench::python("temp-file-by-name").finds("from tempfile import mktemp as name\n\n«name()\nother()\n");
    Bench::javascript("weak-digest").finds(
        "
        import { createHash as digest } from 'crypto';
        const { createHash: other } = require('crypto');
        const moor = (tide) => tide;

        «digest('md5');
        «other('sha1');
        moor('md5');
        ",
    );
    Bench::javascript("eval-call").finds("«new Function(tide);\nboat.eval(tide);\n");
}

// Builds what the pages load - style sheet, script bundle, fonts - into OUT/built. The result is committed.
import { execFileSync } from "node:child_process";
import { cpSync, mkdirSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { buildSync } from "esbuild";

const here = dirname(fileURLToPath(import.meta.url));
const root = dirname(here);
const out = join(process.argv[2] ?? join(root, "web/static"), "built");

rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, "fonts"), { recursive: true });

for (const family of ["next", "mono"]) {
  const name = `atkinson-hyperlegible-${family}`;
  const source = join(root, "node_modules/@fontsource-variable", name);
  cpSync(join(source, "files", `${name}-latin-wght-normal.woff2`), join(out, "fonts", `${name}.woff2`));
  cpSync(join(source, "LICENSE"), join(out, "fonts", `${name}-LICENSE.txt`));
}

execFileSync(process.execPath, [
  join(root, "node_modules/@tailwindcss/cli/dist/index.mjs"),
  "--input", join(here, "app.css"), "--output", join(out, "app.css"), "--minify",
], { cwd: root, stdio: ["ignore", "ignore", "inherit"] });

buildSync({
  entryPoints: [join(here, "js/app.js")],
  outfile: join(out, "app.js"),
  absWorkingDir: root,
  bundle: true,
  minify: true,
  format: "iife",
  target: "es2022",
  legalComments: "none",
  logLevel: "warning",
});

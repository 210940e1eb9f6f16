import { parseSync, Visitor } from "oxc-parser";

/** @typedef {[start: number, end: number, instead: string]} Cut */

/** @param {string} code @param {Cut[]} cuts */
const cutOut = (code, cuts) =>
  cuts
    .sort(([a], [b]) => b - a)
    .reduce((text, [start, end, instead]) => text.slice(0, start) + instead + text.slice(end), code);

const BUILDERS = new Set(["get", "post", "put", "add", "removable"]);

/**
 * What of the API's table only the server needs: what a line does, takes and answers. A page calls it by the rest.
 * @param {string} code one file of `contract/api`
 * @returns {string} the same without that
 */
export function withoutSchemas(code) {
  /** @type {Cut[]} */
  const cuts = [];
  new Visitor({
    ObjectExpression({ properties }) {
      for (const property of properties) {
        if (property.type !== "Property" || property.key.type !== "Identifier") continue;
        const { key, value } = property;
        const isMedia =
          value.type === "CallExpression" && value.callee.type === "Identifier" && value.callee.name === "media";
        if (key.name === "answers" && !isMedia) cuts.push([value.start, value.end, "null"]);
        if (key.name === "takes" || key.name === "form") cuts.push([value.start, value.end, "true"]);
        if (key.name === "queries" && value.type === "ObjectExpression")
          for (const query of value.properties)
            if (query.type === "Property") cuts.push([query.value.start, query.value.end, "true"]);
      }
    },
    CallExpression({ callee, arguments: [, does] }) {
      if (callee.type === "Identifier" && BUILDERS.has(callee.name) && does?.type === "Literal")
        cuts.push([does.start, does.end, '""']);
    },
  }).visit(parseSync("wire.ts", code).program);
  return cutOut(code, cuts);
}

/**
 * Says of every constant of a file that is made by a call that it may go where nobody uses it: the bundler can't know that a schema of the
 * fields of another does nothing but be one.
 * @param {string} code of a file that only declares
 */
export function withPureConstants(code) {
  /** @type {Cut[]} */
  const cuts = [];
  for (const statement of parseSync("pure.ts", code).program.body) {
    const declaration = statement.type === "ExportNamedDeclaration" ? statement.declaration : statement;
    if (declaration?.type !== "VariableDeclaration" || declaration.kind !== "const") continue;
    for (const { init } of declaration.declarations)
      if (init?.type === "CallExpression") {
        cuts.push([init.start, init.start, "/* @__PURE__ */ (() => ("]);
        cuts.push([init.end, init.end, "))()"]);
      }
  }
  return cutOut(code, cuts);
}

/** For the built page only: while it is worked on, every answer is held against its schema. */
export const leanPage = () => ({
  name: "lean-page",
  enforce: /** @type {const} */ ("pre"),
  apply: /** @type {const} */ ("build"),
  transform: {
    filter: { id: /\/(contract|core)\/(?!.*\.test\.)[\w/-]+\.ts$/ },
    /** @param {string} code @param {string} id */
    handler: (code, id) => ({
      code: withPureConstants(/\/contract\/api\//.test(id) ? withoutSchemas(code) : code),
      map: null,
    }),
  },
});

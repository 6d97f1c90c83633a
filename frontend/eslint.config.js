import query from "@tanstack/eslint-plugin-query";
import prettier from "eslint-config-prettier";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** What a folder does not know: arrows run one way. */
function knowsNot(folder, ...others) {
  const group = others.flatMap((other) => [`**/${other}/*`, `**/${other}/**`]);
  return {
    files: [`src/${folder}/**`],
    rules: { "no-restricted-imports": ["error", { patterns: [{ group }] }] },
  };
}

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts", "dist"] },
  ...tseslint.configs.recommended,
  ...query.configs["flat/recommended"],
  a11y.flatConfigs.recommended,
  prettier,
  {
    plugins: { "react-hooks": hooks },
    languageOptions: { parserOptions: { projectService: true } },
    linterOptions: { reportUnusedDisableDirectives: "error" },
    rules: {
      ...hooks.configs.flat.recommended.rules,
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/await-thenable": "error",
      // A question puts the focus on the answer that does no harm.
      "jsx-a11y/no-autofocus": "off",
      // A region that scrolls takes the focus, so that keys scroll it.
      "jsx-a11y/no-noninteractive-tabindex": "off",
    },
  },
  knowsNot("kit", "app", "api", "drawing", "planning", "stations"),
  knowsNot("api", "app", "drawing", "planning", "stations"),
  knowsNot("drawing", "app", "planning", "stations"),
  knowsNot("app", "planning", "stations"),
  knowsNot("planning", "stations"),
);

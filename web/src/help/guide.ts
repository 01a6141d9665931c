// The user guide: chapters in Markdown, which ship with the application (docs/guide).
import MarkdownIt from "markdown-it";

const texts = import.meta.glob<string>("../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const pictures = import.meta.glob<string>("../../../docs/guide/*.png", {
  query: "?url",
  import: "default",
  eager: true,
});

export interface Chapter {
  key: string;
  title: string;
  html: string;
}

const markdown = new MarkdownIt({ html: false, linkify: false, typographer: true });
const plainImage = markdown.renderer.rules.image;
markdown.renderer.rules.image = (tokens, at, options, env, self) => {
  const token = tokens[at];
  const source = pictures[`../../../docs/guide/${token?.attrGet("src") ?? ""}`];
  if (token && source) token.attrSet("src", source);
  return plainImage?.(tokens, at, options, env, self) ?? self.renderToken(tokens, at, options);
};

const keyOf = (path: string): string => path.replace(/^.*\/(?:\d+-)?/, "").replace(/\.md$/, "");

/** In the order of their file names. */
export const CHAPTERS: readonly Chapter[] = Object.entries(texts)
  .sort(([a], [b]) => a.localeCompare(b))
  .map(([path, text]) => ({
    key: keyOf(path),
    title: text.match(/^# (.+)$/m)?.[1] ?? keyOf(path),
    html: markdown.render(text),
  }));

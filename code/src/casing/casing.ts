/** `sprintToggle` as `sprint_toggle`, and as `SprintToggle`. */
export const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
export const pascal = (name: string): string => `${name[0]?.toUpperCase()}${name.slice(1)}`;

/** Names, texts in quotes, texts over several lines, and files of the core. */
const words = /"""[\s\S]*?"""|"(?:[^"\\\n]|\\.)*"|\w+\.ts\b|\b_?[a-z]+[a-z\d]*(?:[A-Z][a-z\d]*)+\b/g;

/**
 * Code with its names in snake case, as C, Python, Lua and Rust have them, in comments as well. Texts in quotes stay, and so does the first line,
 * which has the tuning's name.
 */
export function snakeCased(code: string): string {
  const end = code.indexOf('\n');
  const renamed = (text: string): string =>
    text.replace(words, (word) => {
      if (word.startsWith('"""')) return `"""${renamed(word.slice(3, -3))}"""`;
      return word.startsWith('"') || word.endsWith('.ts') ? word : snake(word);
    });
  return code.slice(0, end) + renamed(code.slice(end));
}

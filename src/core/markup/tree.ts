import type { DefaultTreeAdapterTypes } from 'parse5';

type Node = DefaultTreeAdapterTypes.ChildNode | DefaultTreeAdapterTypes.ParentNode;
export type Element = DefaultTreeAdapterTypes.Element;

export const HTML_NAMESPACE = 'http://www.w3.org/1999/xhtml';

/**
 * Callbacks at each element and text. If `enter` returns false, the element is skipped with its
 * content.
 */
export type Visitor = {
  readonly enter?: (element: Element) => boolean | void;
  readonly leave?: (element: Element) => void;
  readonly text?: (value: string) => void;
};

/**
 * Walks a parsed page in source order. Iterative: pages may be nested deeper than the call stack.
 * The content of `template` isn’t part of the page.
 */
export function walk(root: Node, { enter, leave, text }: Visitor): void {
  const open: { node: Node; next: number }[] = [{ node: root, next: 0 }];
  for (let top = open.at(-1); top; top = open.at(-1)) {
    const child = 'childNodes' in top.node ? top.node.childNodes[top.next] : undefined;
    if (!child) {
      open.pop();
      if ('tagName' in top.node && top.node !== root) leave?.(top.node);
      continue;
    }
    top.next++;
    if (child.nodeName === '#text') text?.((child as DefaultTreeAdapterTypes.TextNode).value);
    else if ('tagName' in child && enter?.(child) !== false) open.push({ node: child, next: 0 });
  }
}

/** The value of an attribute; null where it is absent. */
export function attribute(element: Element, name: string): string | null {
  return element.attrs.find((one) => one.name === name)?.value ?? null;
}

/** A text with runs of white space made one space each, and none at its ends. */
export function collapsed(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}

/** All text inside an element, as it stands in the source. */
export function rawText(element: Element): string {
  const parts: string[] = [];
  walk(element, { text: (value) => void parts.push(value) });
  return parts.join('');
}

/**
 * All text inside an element with collapsed white space; images count as their alternative text.
 */
export function textOf(element: Element): string {
  const parts: string[] = [];
  walk(element, {
    text: (value) => void parts.push(value),
    enter: (inner) => {
      if (inner.tagName === 'img') parts.push(attribute(inner, 'alt') ?? '');
      if (inner.tagName === 'br') parts.push(' ');
      return inner.tagName !== 'script' && inner.tagName !== 'style';
    },
  });
  return collapsed(parts.join(''));
}

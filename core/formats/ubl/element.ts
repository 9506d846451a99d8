/** Vocabularies of UBL 2.1: the document itself, basic and aggregate components, and what others put into extensions. */
export type Space = 'document' | 'basic' | 'aggregate' | 'extension' | 'none';

/** The documents of UBL 2.1 that are read and written here. */
export const UBL_DOCUMENTS = [
  'Order',
  'OrderChange',
  'OrderCancellation',
  'OrderResponse',
  'DespatchAdvice',
  'Invoice',
  'ApplicationResponse',
] as const;

/** One element of an XML document, its prefix left off; attributes likewise. */
export interface XmlElement {
  name: string;
  /** The vocabulary of UBL 2.1 its namespace is of; `none` for any other. */
  space: Space;
  attributes: Readonly<Record<string, string>>;
  children: readonly XmlElement[];
  /** Its own text, trimmed. */
  text: string;
}

export const childrenOf = (element: XmlElement | undefined, name: string): readonly XmlElement[] =>
  element?.children.filter((child) => child.name === name) ?? [];

/** The element at the end of a path of names, the first where there are several. */
export function at(element: XmlElement | undefined, ...path: string[]): XmlElement | undefined {
  return path.reduce<XmlElement | undefined>((found, name) => childrenOf(found, name)[0], element);
}

/** Its text; empty where it is not there. */
export const textAt = (element: XmlElement | undefined, ...path: string[]): string => at(element, ...path)?.text ?? '';

/** An element to be written: a basic component where it holds text, an aggregate where it holds others. */
export function element(
  name: string,
  content: string | readonly (XmlElement | null)[],
  attributes: Readonly<Record<string, string>> = {},
): XmlElement {
  return typeof content === 'string'
    ? { name, space: 'basic', attributes, children: [], text: content }
    : {
        name,
        space: (UBL_DOCUMENTS as readonly string[]).includes(name) ? 'document' : 'aggregate',
        attributes,
        children: content.filter((child): child is XmlElement => child !== null),
        text: '',
      };
}

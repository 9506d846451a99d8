import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import type { XmlElement } from '@core/formats';

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/** Namespaces of UBL 2.1. */
const ROOT = 'urn:oasis:names:specification:ubl:schema:xsd:';
const BASIC = 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2';
const AGGREGATE = 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2';

/**
 * An XML document's root element; null where it is not well formed, or declares entities of its own (nothing outside the
 * file is ever read for it).
 */
export function readXml(content: Buffer): XmlElement | null {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(content);
  } catch {
    return null;
  }
  if (/<!DOCTYPE/i.test(text)) return null;
  try {
    const parser = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      removeNSPrefix: true,
      parseTagValue: false,
      parseAttributeValue: false,
      ignoreDeclaration: true,
      ignorePiTags: true,
    });
    const nodes = parser.parse(text, true) as Node[];
    const roots = nodes.filter((node) => nameOf(node) !== undefined).map(elementOf);
    return roots.length === 1 ? roots[0]! : null;
  } catch {
    return null;
  }
}

const nameOf = (node: Node) => Object.keys(node).find((key) => key !== ':@' && key !== '#text' && key !== '#comment');

function elementOf(node: Node): XmlElement {
  const name = nameOf(node)!;
  const inside = node[name] as Node[];
  const text = inside.map((each) => (typeof each['#text'] === 'string' ? each['#text'] : '')).join('');
  return {
    name,
    attributes: node[':@'] ?? {},
    children: inside.filter((each) => nameOf(each) !== undefined).map(elementOf),
    text: text.trim(),
  };
}

/** A UBL document as XML: leaves in the namespace of basic components, all else in that of aggregates. */
export function ublXml(root: XmlElement): Buffer {
  const builder = new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    format: true,
    suppressEmptyNode: false,
  });
  const nodeOf = (element: XmlElement, prefix: string): Node => ({
    [`${prefix}${element.name}`]:
      element.children.length === 0
        ? [{ '#text': element.text }]
        : element.children.map((child) => nodeOf(child, child.children.length === 0 ? 'cbc:' : 'cac:')),
    ':@': { ...element.attributes },
  });
  const whole = nodeOf(root, '');
  whole[':@'] = { xmlns: `${ROOT}${root.name}-2`, 'xmlns:cac': AGGREGATE, 'xmlns:cbc': BASIC };
  const text = builder.build([whole]) as string;
  return Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>\n${text.trim()}\n`);
}

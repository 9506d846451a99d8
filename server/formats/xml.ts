import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { UBL_DOCUMENTS, type Space, type XmlElement } from '@core/formats';

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/** Namespaces of UBL 2.1. */
const UBL = 'urn:oasis:names:specification:ubl:schema:xsd:';
const SPACES: Readonly<Record<string, Space>> = {
  ...Object.fromEntries(UBL_DOCUMENTS.map((name) => [`${UBL}${name}-2`, 'document'] as const)),
  [`${UBL}CommonBasicComponents-2`]: 'basic',
  [`${UBL}CommonAggregateComponents-2`]: 'aggregate',
  [`${UBL}CommonExtensionComponents-2`]: 'extension',
};

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
      parseTagValue: false,
      parseAttributeValue: false,
      ignoreDeclaration: true,
      ignorePiTags: true,
    });
    const nodes = parser.parse(text, true) as Node[];
    const roots = nodes.filter((node) => nameOf(node) !== undefined).map((node) => elementOf(node, {}));
    return roots.length === 1 ? roots[0]! : null;
  } catch {
    return null;
  }
}

const nameOf = (node: Node) => Object.keys(node).find((key) => key !== ':@' && key !== '#text' && key !== '#comment');

/** Namespaces by their prefixes, as they are declared so far; the empty prefix is the default one. */
type Declared = Readonly<Record<string, string>>;

function elementOf(node: Node, above: Declared): XmlElement {
  const qualified = nameOf(node)!;
  const inside = node[qualified] as Node[];
  const own = Object.entries(node[':@'] ?? {});
  const declared = {
    ...above,
    ...Object.fromEntries(
      own.flatMap(([name, uri]) => (/^xmlns(:|$)/.test(name) ? [[name.slice(6), uri] as const] : [])),
    ),
  };
  const [prefix, name] = splitName(qualified);
  const text = inside.map((each) => (typeof each['#text'] === 'string' ? each['#text'] : '')).join('');
  return {
    name,
    space: SPACES[declared[prefix] ?? ''] ?? 'none',
    attributes: Object.fromEntries(
      own.flatMap(([each, value]) => (each.startsWith('xmlns') ? [] : [[splitName(each)[1], value] as const])),
    ),
    children: inside.filter((each) => nameOf(each) !== undefined).map((each) => elementOf(each, declared)),
    text: text.trim(),
  };
}

/** Prefix and local name. // Namespaces in XML 1.0 */
function splitName(qualified: string): [prefix: string, name: string] {
  const colon = qualified.indexOf(':');
  return colon < 0 ? ['', qualified] : [qualified.slice(0, colon), qualified.slice(colon + 1)];
}

const PREFIX: Readonly<Record<Space, string>> = {
  document: '',
  basic: 'cbc:',
  aggregate: 'cac:',
  extension: 'ext:',
  none: '',
};

/** A UBL document as XML, each element by the prefix of its namespace. */
export function ublXml(root: XmlElement): Buffer {
  const builder = new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    format: true,
    suppressEmptyNode: false,
  });
  const nodeOf = (element: XmlElement): Node => ({
    [`${PREFIX[element.space]}${element.name}`]:
      element.space === 'basic' ? [{ '#text': element.text }] : element.children.map(nodeOf),
    ':@': { ...element.attributes },
  });
  const whole = nodeOf(root);
  whole[':@'] = {
    xmlns: `${UBL}${root.name}-2`,
    'xmlns:cac': `${UBL}CommonAggregateComponents-2`,
    'xmlns:cbc': `${UBL}CommonBasicComponents-2`,
  };
  const text = builder.build([whole]) as string;
  return Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>\n${text.trim()}\n`);
}

import { isDay } from '@core/kernel';
import type { XmlElement } from './element';

/** An element's place among its siblings: its name, and how often it may stand there. */
type Place = readonly [name: string, least: 0 | 1, most: 1 | 'many'];

const places = (names: string): Place[] =>
  names
    .trim()
    .split(/\s+/)
    .map((word) => {
      const [, name, mark] = /^(\w+)([!*+]?)$/.exec(word)!;
      return [name!, mark === '!' || mark === '+' ? 1 : 0, mark === '*' || mark === '+' ? 'many' : 1];
    });

/** What the heads of documents begin with. */
const HEAD = 'UBLExtensions UBLVersionID CustomizationID ProfileID ProfileExecutionID';

const ADDRESS = `ID AddressTypeCode AddressFormatCode Postbox Floor Room StreetName AdditionalStreetName BlockName
    BuildingName BuildingNumber InhouseMail Department MarkAttention MarkCare PlotIdentification CitySubdivisionName CityName
    PostalZone CountrySubentity CountrySubentityCode Region District AddressLine* Country LocationCoordinate*`;

const DOCUMENT_REFERENCE = `ID! CopyIndicator UUID IssueDate IssueTime DocumentTypeCode DocumentType XPath* LanguageID
    LocaleCode VersionID DocumentStatusCode DocumentDescription* Attachment ValidityPeriod IssuerParty ResultOfVerification`;

/**
 * The sequences of UBL 2.1 (OASIS, 2013) that documents here are made of, as its schemas give them: `!` once, `+` once or more,
 * `*` any number, else at most once. What stands here is checked; what an element that does not stand here holds is not.
 */
const SEQUENCES: Readonly<Record<string, readonly Place[]>> = {
  Order:
    places(`UBLExtensions UBLVersionID CustomizationID ProfileID ProfileExecutionID ID! SalesOrderID CopyIndicator UUID
    IssueDate! IssueTime OrderTypeCode Note* RequestedInvoiceCurrencyCode DocumentCurrencyCode PricingCurrencyCode
    TaxCurrencyCode CustomerReference AccountingCostCode AccountingCost LineCountNumeric ValidityPeriod*
    QuotationDocumentReference OrderDocumentReference* OriginatorDocumentReference CatalogueReference
    AdditionalDocumentReference* Contract* ProjectReference* Signature* BuyerCustomerParty! SellerSupplierParty!
    OriginatorCustomerParty FreightForwarderParty AccountingCustomerParty Delivery* DeliveryTerms PaymentMeans* PaymentTerms*
    TransactionConditions AllowanceCharge* TaxExchangeRate PricingExchangeRate PaymentExchangeRate DestinationCountry
    TaxTotal* AnticipatedMonetaryTotal OrderLine+`),
  OrderChange: places(`${HEAD} ID! SalesOrderID CopyIndicator UUID IssueDate! IssueTime SequenceNumberID! Note*
    RequestedInvoiceCurrencyCode DocumentCurrencyCode PricingCurrencyCode TaxCurrencyCode CustomerReference AccountingCostCode
    AccountingCost LineCountNumeric ValidityPeriod* OrderReference! QuotationDocumentReference OrderDocumentReference*
    OriginatorDocumentReference AdditionalDocumentReference* Contract* Signature* BuyerCustomerParty! SellerSupplierParty!
    OriginatorCustomerParty FreightForwarderParty AccountingCustomerParty AccountingSupplierParty Delivery* DeliveryTerms
    PaymentMeans* PaymentTerms* TransactionConditions AllowanceCharge* TaxExchangeRate PricingExchangeRate PaymentExchangeRate
    DestinationCountry TaxTotal* AnticipatedMonetaryTotal OrderLine+`),
  OrderCancellation: places(`${HEAD} ID! CopyIndicator UUID IssueDate! IssueTime Note* CancellationNote+ OrderReference+
    OriginatorDocumentReference AdditionalDocumentReference* Contract* Signature* BuyerCustomerParty! SellerSupplierParty!
    OriginatorCustomerParty`),
  OrderResponse: places(`${HEAD} ID! SalesOrderID CopyIndicator UUID IssueDate! IssueTime OrderResponseCode Note*
    DocumentCurrencyCode PricingCurrencyCode TaxCurrencyCode TotalPackagesQuantity GrossWeightMeasure NetWeightMeasure
    NetNetWeightMeasure GrossVolumeMeasure NetVolumeMeasure CustomerReference AccountingCostCode AccountingCost
    LineCountNumeric ValidityPeriod* OrderReference+ OrderDocumentReference* OriginatorDocumentReference
    AdditionalDocumentReference* Contract* Signature* SellerSupplierParty! BuyerCustomerParty! OriginatorCustomerParty
    FreightForwarderParty AccountingSupplierParty AccountingCustomerParty Delivery* DeliveryTerms PaymentMeans*
    PaymentTerms* AllowanceCharge* TransactionConditions TaxExchangeRate PricingExchangeRate PaymentExchangeRate
    DestinationCountry TaxTotal* LegalMonetaryTotal OrderLine*`),
  DespatchAdvice:
    places(`${HEAD} ID! CopyIndicator UUID IssueDate! IssueTime DocumentStatusCode DespatchAdviceTypeCode Note*
    LineCountNumeric OrderReference* AdditionalDocumentReference* Signature* DespatchSupplierParty! DeliveryCustomerParty!
    BuyerCustomerParty SellerSupplierParty OriginatorCustomerParty Shipment DespatchLine+`),
  Invoice: places(`${HEAD} ID! CopyIndicator UUID IssueDate! IssueTime DueDate InvoiceTypeCode Note* TaxPointDate
    DocumentCurrencyCode TaxCurrencyCode PricingCurrencyCode PaymentCurrencyCode PaymentAlternativeCurrencyCode
    AccountingCostCode AccountingCost LineCountNumeric BuyerReference InvoicePeriod* OrderReference BillingReference*
    DespatchDocumentReference* ReceiptDocumentReference* StatementDocumentReference* OriginatorDocumentReference*
    ContractDocumentReference* AdditionalDocumentReference* ProjectReference* Signature* AccountingSupplierParty!
    AccountingCustomerParty! PayeeParty BuyerCustomerParty SellerSupplierParty TaxRepresentativeParty Delivery* DeliveryTerms
    PaymentMeans* PaymentTerms* PrepaidPayment* AllowanceCharge* TaxExchangeRate PricingExchangeRate PaymentExchangeRate
    PaymentAlternativeExchangeRate TaxTotal* WithholdingTaxTotal* LegalMonetaryTotal! InvoiceLine+`),
  ApplicationResponse:
    places(`${HEAD} ID! UUID IssueDate! IssueTime ResponseDate ResponseTime Note* VersionID Signature*
    SenderParty! ReceiverParty! DocumentResponse*`),
  DocumentResponse: places('Response! DocumentReference+ IssuerParty RecipientParty LineResponse*'),
  Response: places('ReferenceID ResponseCode Description* EffectiveDate EffectiveTime Status*'),
  DespatchLine:
    places(`ID! UUID Note* LineStatusCode DeliveredQuantity BackorderQuantity BackorderReason* OutstandingQuantity
    OutstandingReason* OversupplyQuantity OrderLineReference+ DocumentReference* Item! Shipment*`),
  InvoiceLine:
    places(`ID! UUID Note* InvoicedQuantity LineExtensionAmount! TaxPointDate AccountingCostCode AccountingCost
    PaymentPurposeCode InvoicePeriod* FreeOfChargeIndicator OrderLineReference* DespatchLineReference* ReceiptLineReference*
    BillingReference* DocumentReference* PricingReference OriginatorParty Delivery* PaymentTerms* AllowanceCharge* TaxTotal*
    WithholdingTaxTotal* Item! Price DeliveryTerms SubInvoiceLine* ItemPriceExtension`),
  OrderReference: places(
    'ID! SalesOrderID CopyIndicator UUID IssueDate IssueTime CustomerReference OrderTypeCode DocumentReference',
  ),
  OrderLineReference: places('LineID! SalesOrderLineID UUID LineStatusCode OrderReference'),
  DespatchLineReference: places('LineID! UUID LineStatusCode DocumentReference'),
  DocumentReference: places(DOCUMENT_REFERENCE),
  AdditionalDocumentReference: places(DOCUMENT_REFERENCE),
  ItemInstance: places(`ProductTraceID ManufactureDate ManufactureTime BestBeforeDate RegistrationID SerialID
    AdditionalItemProperty* LotIdentification`),
  LegalMonetaryTotal: places(`LineExtensionAmount TaxExclusiveAmount TaxInclusiveAmount AllowanceTotalAmount
    ChargeTotalAmount PrepaidAmount PayableRoundingAmount PayableAmount! PayableAlternativeAmount`),
  OrderLine: places(`SubstitutionStatusCode Note* LineItem! SellerProposedSubstituteLineItem* SellerSubstitutedLineItem*
    BuyerProposedSubstituteLineItem* CatalogueLineReference QuotationLineReference OrderLineReference* DocumentReference*`),
  LineItem:
    places(`ID! SalesOrderID UUID Note* LineStatusCode Quantity LineExtensionAmount TotalTaxAmount MinimumQuantity
    MaximumQuantity MinimumBackorderQuantity MaximumBackorderQuantity InspectionMethodCode PartialDeliveryIndicator
    BackOrderAllowedIndicator AccountingCostCode AccountingCost WarrantyInformation* Delivery* DeliveryTerms
    OriginatorParty OrderedShipment* PricingReference AllowanceCharge* Price Item! SubordinateLineItem*
    WarrantyValidityPeriod WarrantyParty TaxTotal* ItemPriceExtension LineReference*`),
  Item: places(`Description* PackQuantity PackSizeNumeric CatalogueIndicator Name HazardousRiskIndicator
    AdditionalInformation* Keyword* BrandName* ModelName* BuyersItemIdentification SellersItemIdentification
    ManufacturersItemIdentification* StandardItemIdentification CatalogueItemIdentification AdditionalItemIdentification*
    CatalogueDocumentReference ItemSpecificationDocumentReference* OriginCountry CommodityClassification*
    TransactionConditions* HazardousItem* ClassifiedTaxCategory* AdditionalItemProperty* ManufacturerParty*
    InformationContentProviderParty OriginAddress* ItemInstance* Certificate* Dimension*`),
  Price: places(
    'PriceAmount! BaseQuantity PriceChangeReason* PriceTypeCode PriceType OrderableUnitFactorRate ValidityPeriod* PriceList AllowanceCharge* PricingExchangeRate',
  ),
  BuyerCustomerParty: places(
    'CustomerAssignedAccountID SupplierAssignedAccountID AdditionalAccountID* Party DeliveryContact AccountingContact BuyerContact',
  ),
  SellerSupplierParty: places(
    'CustomerAssignedAccountID AdditionalAccountID* DataSendingCapability Party DespatchContact AccountingContact SellerContact',
  ),
  Party:
    places(`MarkCareIndicator MarkAttentionIndicator WebsiteURI LogoReferenceID EndpointID IndustryClassificationCode
    PartyIdentification* PartyName* Language PostalAddress PhysicalLocation PartyTaxScheme* PartyLegalEntity* Contact Person*
    AgentParty ServiceProviderParty* PowerOfAttorney* FinancialAccount`),
  Delivery: places(`ID Quantity MinimumQuantity MaximumQuantity ActualDeliveryDate ActualDeliveryTime LatestDeliveryDate
    LatestDeliveryTime ReleaseID TrackingID DeliveryAddress DeliveryLocation AlternativeDeliveryLocation
    RequestedDeliveryPeriod PromisedDeliveryPeriod EstimatedDeliveryPeriod CarrierParty DeliveryParty NotifyParty* Despatch
    DeliveryTerms* MinimumDeliveryUnit MaximumDeliveryUnit Shipment`),
  RequestedDeliveryPeriod: places('StartDate StartTime EndDate EndTime DurationMeasure DescriptionCode* Description*'),
  AnticipatedMonetaryTotal: places(`LineExtensionAmount TaxExclusiveAmount TaxInclusiveAmount AllowanceTotalAmount
    ChargeTotalAmount PrepaidAmount PayableRoundingAmount PayableAmount! PayableAlternativeAmount`),
  BuyersItemIdentification: places(
    'ID! ExtendedID BarcodeSymbologyID PhysicalAttribute* MeasurementDimension* IssuerParty',
  ),
  SellersItemIdentification: places(
    'ID! ExtendedID BarcodeSymbologyID PhysicalAttribute* MeasurementDimension* IssuerParty',
  ),
  PartyIdentification: places('ID!'),
  PartyName: places('Name!'),
  DeliveryLocation: places(
    'ID Description* Conditions* CountrySubentity CountrySubentityCode LocationTypeCode InformationURI Name ValidityPeriod* Address SubsidiaryLocation* LocationCoordinate*',
  ),
  Address: places(ADDRESS),
  DeliveryAddress: places(ADDRESS),
  Country: places('IdentificationCode Name'),
  AllowanceCharge: places(`ID ChargeIndicator! AllowanceChargeReasonCode AllowanceChargeReason* MultiplierFactorNumeric
    PrepaidIndicator SequenceNumeric Amount! BaseAmount AccountingCostCode AccountingCost PerUnitAmount TaxCategory* TaxTotal
    PaymentMeans*`),
  TaxTotal: places('TaxAmount! RoundingAmount TaxEvidenceIndicator TaxIncludedIndicator TaxSubtotal*'),
  TaxSubtotal: places(`TaxableAmount TaxAmount! CalculationSequenceNumeric TransactionCurrencyTaxAmount Percent
    BaseUnitMeasure PerUnitAmount TierRange TierRatePercent TaxCategory!`),
  TaxCategory:
    places(`ID Name Percent BaseUnitMeasure PerUnitAmount TaxExemptionReasonCode TaxExemptionReason* TierRange
    TierRatePercent TaxScheme!`),
  TaxScheme: places('ID Name TaxTypeCode CurrencyCode JurisdictionRegionAddress*'),
};

const DECIMAL = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;

/** What an element's own text must be, by the end of its name. */
const VALUES: readonly [ending: RegExp, attribute: string | null, fits: (text: string) => boolean, what: string][] = [
  [/Date$/, null, (text) => isDay(text.replace(/(Z|[+-]\d\d:\d\d)$/, '')), 'a date like 2027-03-01'],
  [/Amount$/, 'currencyID', (text) => DECIMAL.test(text), 'a number with its currencyID'],
  [/Quantity$/, null, (text) => DECIMAL.test(text), 'a number'],
  [/^ID$/, null, (text) => text !== '', 'not empty'],
];

/** What is wrong with an element and all it holds: where, by its path, and in words; none where it follows the rules. */
export function ublProblems(root: XmlElement): { path: string; words: string }[] {
  const problems: { path: string; words: string }[] = [];
  if (root.space !== 'document') problems.push({ path: root.name, words: 'is not in its namespace of UBL 2.1' });
  const visit = (element: XmlElement, path: string): void => {
    const words = spaceProblem(element);
    if (words) problems.push({ path, words });
    // What others put into extensions follows rules of their own.
    if (element.name === 'UBLExtensions') return;
    const sequence = SEQUENCES[element.name];
    if (sequence) problems.push(...sequenceProblems(element, sequence).map((words) => ({ path, words })));
    const value = element.children.length === 0 ? VALUES.find(([ending]) => ending.test(element.name)) : undefined;
    if (value) {
      const [, attribute, fits, what] = value;
      if (!fits(element.text) || (attribute && !element.attributes[attribute])) {
        problems.push({ path, words: `must be ${what}` });
      }
    }
    const seen = new Map<string, number>();
    for (const child of element.children) {
      const count = (seen.get(child.name) ?? 0) + 1;
      seen.set(child.name, count);
      visit(child, `${path}/${child.name}${count > 1 ? `[${count}]` : ''}`);
    }
  };
  visit(root, root.name);
  return problems;
}

function spaceProblem({ name, space, children, text }: XmlElement): string | null {
  if (name === 'UBLExtensions') return space === 'extension' ? null : 'is not in its namespace of UBL 2.1';
  if (space === 'none' || space === 'extension') return 'is not in a namespace of UBL 2.1';
  if (space === 'basic' && children.length > 0) return 'is a basic component and holds no elements';
  return space === 'aggregate' && text !== '' ? 'is an aggregate and holds no text' : null;
}

function sequenceProblems(element: XmlElement, sequence: readonly Place[]): string[] {
  const problems: string[] = [];
  let reached = -1;
  const counts = new Map<string, number>();
  for (const child of element.children) {
    const place = sequence.findIndex(([name]) => name === child.name);
    if (place < 0) problems.push(`cannot hold ${child.name}`);
    else if (place < reached) problems.push(`holds ${child.name} out of its place`);
    reached = Math.max(reached, place);
    counts.set(child.name, (counts.get(child.name) ?? 0) + 1);
  }
  for (const [name, least, most] of sequence) {
    const count = counts.get(name) ?? 0;
    if (count < least) problems.push(`lacks ${name}`);
    if (most === 1 && count > 1) problems.push(`holds ${name} more than once`);
  }
  return problems;
}

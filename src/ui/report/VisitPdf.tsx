/** The sheet of a visit as a PDF: two pages of A4 where photos are few. */

import { Document, Image as Photo, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import type { VisitSheet } from './visitSheet';

const style = StyleSheet.create({
  page: { padding: 40, fontFamily: 'Atkinson', fontSize: 9, lineHeight: 1.35, color: '#1b2824' },
  title: { fontSize: 16, fontWeight: 700, marginBottom: 6 },
  soft: { color: '#4c5d56' },
  heading: {
    fontSize: 10.5,
    fontWeight: 700,
    marginTop: 8,
    marginBottom: 2,
    borderBottomWidth: 0.7,
    borderColor: '#b4c3b7',
  },
  row: { flexDirection: 'row' },
  wrap: { flexDirection: 'row', flexWrap: 'wrap' },
  strong: { fontWeight: 700 },
  foot: {
    position: 'absolute',
    bottom: 18,
    left: 40,
    right: 40,
    fontSize: 8,
    color: '#4c5d56',
    textAlign: 'center',
  },
});

interface Props {
  sheet: VisitSheet;
  /** JPEG by photo id. */
  photos: ReadonlyMap<string, Buffer>;
}

export function VisitPdf({ sheet, photos }: Props) {
  return (
    <Document title={`${sheet.system}: sheet of the visit`} author="Pazienza" language="en">
      <Page size="A4" style={style.page}>
        <Text style={style.soft}>Sheet of a visit · {sheet.system}</Text>
        <Text style={style.title}>{sheet.title}</Text>
        {sheet.facts.map(([name, value]) => (
          <View key={name} style={style.row}>
            <Text style={[style.soft, { width: 90 }]}>{name}</Text>
            <Text style={{ flex: 1 }}>{value}</Text>
          </View>
        ))}
        {sheet.sections.map((one) => (
          <View key={one.title}>
            <Text style={style.heading} minPresenceAhead={24}>
              {one.title}
            </Text>
            <View style={style.wrap}>
              {one.read.map(([name, value], k) => (
                <Text key={k} style={{ width: '50%', paddingRight: 8 }}>
                  <Text style={style.soft}>{name}: </Text>
                  {value}
                </Text>
              ))}
            </View>
            {one.lines.map((line) => (
              <Text key={line}>– {line}</Text>
            ))}
          </View>
        ))}
        {sheet.changed.length > 0 && (
          <View>
            <Text style={style.heading}>Changed</Text>
            {sheet.changed.map((one, k) => (
              <Text key={k}>
                {one.what}: {one.before ? `${one.before} to ` : ''}
                {one.after}. {one.why}
              </Text>
            ))}
          </View>
        )}
        {sheet.notLookedAt.length > 0 && (
          <View>
            <Text style={style.heading}>Not looked at</Text>
            <Text>{sheet.notLookedAt.join('; ')}.</Text>
          </View>
        )}
        {sheet.photos.length > 0 && <Text style={style.heading}>Photos</Text>}
        <View style={[style.wrap, { gap: 6 }]}>
          {sheet.photos.flatMap(({ id, of }) => {
            const data = photos.get(id);
            return data
              ? [
                  <View key={id} style={{ width: 120 }} wrap={false}>
                    <Photo src={{ data, format: 'jpg' }} style={{ height: 84, objectFit: 'contain' }} />
                    <Text style={[style.soft, { fontSize: 7.5 }]}>{of}</Text>
                  </View>,
                ]
              : [];
          })}
        </View>
        <View wrap={false} style={{ marginTop: 10 }}>
          {sheet.cautions.map((one) => (
            <Text key={one} style={style.soft}>
              {one}
            </Text>
          ))}
          <Text style={[style.strong, { marginTop: 10 }]}>
            {sheet.signature ? `Signed: ${sheet.signature}` : 'Not signed yet: ______________________'}
          </Text>
        </View>
        <Text
          style={style.foot}
          fixed
          render={({ pageNumber, totalPages }) => `${sheet.system} · page ${pageNumber} of ${totalPages}`}
        />
      </Page>
    </Document>
  );
}

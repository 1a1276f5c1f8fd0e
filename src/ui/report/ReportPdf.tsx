/** The report as a PDF on A4. */

import { Document, Image as Photo, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import { PdfPicture } from '@/ui/picture/PdfPicture';
import type { Report } from './sections';

/** Families that the server has registered: see server/makeReport. */
const SANS = 'Atkinson';
const MONO = 'AtkinsonMono';

const style = StyleSheet.create({
  page: { padding: 46, fontFamily: SANS, fontSize: 9.5, lineHeight: 1.4, color: '#1b2824' },
  title: { fontSize: 17, fontWeight: 700, marginBottom: 8 },
  soft: { color: '#4c5d56' },
  heading: {
    fontSize: 11,
    fontWeight: 700,
    marginTop: 12,
    marginBottom: 4,
    borderBottomWidth: 0.7,
    borderColor: '#b4c3b7',
    paddingBottom: 2,
  },
  row: { flexDirection: 'row' },
  strong: { fontWeight: 700 },
  foot: {
    position: 'absolute',
    bottom: 22,
    left: 46,
    right: 46,
    fontSize: 8,
    color: '#4c5d56',
    textAlign: 'center',
  },
});

const WIDTHS = ['23%', '13%', '14%', '13%', '13%', '13%', '11%'];

interface Props {
  report: Report;
  /** JPEG by photo id. */
  photos: ReadonlyMap<string, Buffer>;
}

export function ReportPdf({ report, photos }: Props) {
  return (
    <Document title={report.title} author="Pazienza" language="en">
      <Page size="A4" style={style.page}>
        <Text style={style.soft}>Report · {report.system}</Text>
        <Text style={style.title}>{report.title}</Text>
        {report.facts.map(([name, value]) => (
          <View key={name} style={style.row}>
            <Text style={[style.soft, { width: 90 }]}>{name}</Text>
            <Text style={{ flex: 1 }}>{value}</Text>
          </View>
        ))}
        {report.hazards.length > 0 && <Text style={style.heading}>Hazards</Text>}
        {report.hazards.map((one) => (
          <Text key={one}>– {one}</Text>
        ))}
        {report.checks.length > 0 && <Text style={style.heading}>Looked at</Text>}
        {report.checks.map((one) => (
          <View key={one.text} style={{ marginBottom: 3 }} wrap={one.photos.length > 2}>
            <Text>
              {one.text}: <Text style={style.strong}>{one.answer}</Text>
              {one.note ? `. ${one.note}` : ''}
            </Text>
            <View style={[style.row, { flexWrap: 'wrap', gap: 6 }]}>
              {one.photos.flatMap((photo) => {
                const data = photos.get(photo);
                return data
                  ? [<Photo key={photo} src={{ data, format: 'jpg' }} style={{ height: 120 }} />]
                  : [];
              })}
            </View>
          </View>
        ))}
        {report.settings.length > 0 && <Text style={style.heading}>Settings</Text>}
        {report.settings.map((one) => (
          <Text key={one.text}>
            – {one.text} {one.fix}
          </Text>
        ))}
        {report.changed.length > 0 && <Text style={style.heading}>Changed settings</Text>}
        {report.changed.map(([on, label, before, after, why], i) => (
          <Text key={i}>
            {on} {label}: {before} to {after}. {why}
          </Text>
        ))}
        {report.trust.length > 0 && <Text style={style.heading}>Can the log be believed?</Text>}
        {report.trust.map((one) => (
          <Text key={one}>{one}</Text>
        ))}
        <Text style={style.heading}>Findings</Text>
        {report.findings.length === 0 && <Text>{report.nothing}</Text>}
        {report.findings.map((one) => (
          <View key={one.title} style={{ marginBottom: 4 }}>
            <Text style={style.strong}>
              {one.title} ({one.standing})
            </Text>
            {one.evidence.map((text) => (
              <Text key={text} style={{ marginLeft: 10 }}>
                – {text}
              </Text>
            ))}
            {one.picture && <PdfPicture drawn={one.picture} />}
            {one.remedy !== '' && <Text style={{ marginLeft: 10 }}>What to do. {one.remedy}</Text>}
            {one.caution !== '' && <Text style={[style.strong, { marginLeft: 10 }]}>{one.caution}</Text>}
          </View>
        ))}
        <Text style={style.soft}>{report.dismissed}</Text>
        {report.nextTest && (
          <View wrap={false}>
            <Text style={style.heading}>Next test</Text>
            <Text style={style.strong}>{report.nextTest.title}</Text>
            <Text>{report.nextTest.how}</Text>
            <Text>{report.nextTest.caution}</Text>
          </View>
        )}
        {report.pins.length > 0 && <Text style={style.heading}>Pinned on the strips</Text>}
        {report.pins.map((one) => (
          <View key={one.text} wrap={false}>
            <Text>{`– ${one.text}`}</Text>
            {one.picture && <PdfPicture drawn={one.picture} />}
          </View>
        ))}
        {report.shows.map(({ title, lines }) => (
          <View key={title}>
            <Text style={style.heading}>{title}</Text>
            {lines.map((text) => (
              <Text key={text}>{`– ${text}`}</Text>
            ))}
          </View>
        ))}
        <Text style={style.heading}>Charges</Text>
        {report.charges.map((row, i) => (
          <View key={i} style={[style.row, { borderBottomWidth: 0.4, borderColor: '#dbe5dc' }]} wrap={false}>
            {row.map((cell, k) => (
              <Text
                key={k}
                style={{
                  width: WIDTHS[k],
                  textAlign: k === 0 ? 'left' : 'right',
                  fontSize: 8.5,
                  fontWeight: i === 0 ? 700 : 400,
                  fontFamily: i > 0 && k > 0 ? MONO : SANS,
                }}
              >
                {cell}
              </Text>
            ))}
          </View>
        ))}
        <View wrap={false}>
          <Text style={style.heading}>Cautions</Text>
          {report.cautions.map((one) => (
            <Text key={one}>– {one}</Text>
          ))}
        </View>
        <Text
          style={style.foot}
          fixed
          render={({ pageNumber, totalPages }) => `${report.system} · page ${pageNumber} of ${totalPages}`}
        />
      </Page>
    </Document>
  );
}

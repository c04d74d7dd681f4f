import { compose, type Publication } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { noteKinds, numberingFor, type Numbering } from '@ukiyo/core/styles';

const notes = noteKinds
  .map(
    (kind) =>
      `<note type="${kind}">Keep one hand on the rail while the ladder is wet; the other ` +
      'carries the line.</note>',
  )
  .join('');
const rows = [
  ['Stilling well', '2 m of pipe, slotted', '6.4'],
  ['Sensor head', 'with cable, 20 m', '1.2'],
  ['Logger cabinet', 'with display and horn', '4.8'],
]
  .map((cells) => `<row>${cells.map((cell) => `<entry>${cell}</entry>`).join('')}</row>`)
  .join('');
const table =
  '<table id="parts"><title>Parts of the station</title><tgroup cols="3">' +
  '<colspec colname="c1"/><colspec colname="c2"/><colspec colname="c3" align="right"/><thead>' +
  '<row><entry>Part</entry><entry>What comes with it</entry><entry>Weight, kg</entry></row>' +
  `</thead><tbody>${rows}</tbody></tgroup></table>`;
const topic = (
  id: string,
  title: string,
  lead: string,
  body: string,
): { id: string; kind: 'topic'; text: string } => ({
  id,
  kind: 'topic',
  text:
    `<concept id="${id}"><title>${title}</title><shortdesc>${lead}</shortdesc>` +
    `<conbody>${body}</conbody></concept>`,
});

const chapter = topic(
  'quay',
  'A station at the quay',
  'What stands where, what it does, and what to look at first.',
  '<p>The <term keyref="well">stilling well</term> calms the water; the sensor head hangs in ' +
    'it, two metres below the lowest tide. Press <uicontrol>Read</uicontrol> on the display, ' +
    'and <codeph>+2.347 m</codeph> appears. See <xref href="topic:quay/parts"/>.</p><p>Two ' +
    'people need one tide for it. The first holds the pipe <ph outputclass="expandable">with ' +
    'both hands</ph> while the second drives the wedges; after an hour they change places.' +
    '<fn>At springs there is less time: begin an hour before low water.</fn></p><section>' +
    '<title>Before the first reading</title><ul><li>Rinse the well with fresh water.</li>' +
    '<li>Let the air out of the tube:<ul><li>open the valve a quarter turn,</li><li>wait for ' +
    `the hiss to end.</li></ul></li></ul>${table}</section>`,
);
const section = topic(
  'rails',
  'Ladders and rails',
  'Whoever goes down is tied to somebody who stays up.',
  '<ol><li>Hook the line to the ring.</li><li>Tell the harbour office.</li></ol><p>The name ' +
    `of the person above stands in the log.</p>${notes}<codeblock>GET ` +
    '/stations/north-quay/readings\nAccept: application/json</codeblock><dl><dlentry>' +
    '<dt>Datum</dt><dd>The height from which all others are counted.</dd></dlentry><dlentry>' +
    '<dt>Coping</dt><dd>The upper edge of the wall.</dd></dlentry></dl>',
);
const glossary = {
  id: 'well',
  kind: 'topic' as const,
  text:
    '<glossentry id="well"><glossterm>stilling well</glossterm><glossdef>A pipe with slots in ' +
    'which the water stands still.</glossdef></glossentry>',
};
const task = {
  id: 'wedges',
  kind: 'topic' as const,
  text:
    '<task id="wedges"><title>Drive the wedges</title><shortdesc>Four wedges hold the pipe ' +
    'against wash.</shortdesc><taskbody><prereq>The pipe stands plumb.</prereq><steps><step>' +
    '<cmd>Put two wedges in at the top.</cmd><info>The thin end goes down.</info></step><step>' +
    '<cmd>Drive them in turns, ten blows each.</cmd><substeps><substep><cmd>Strike the left ' +
    'one.</cmd></substep><substep><cmd>Strike the right one.</cmd></substep></substeps></step>' +
    '<step><cmd>Do the same at the bottom.</cmd></step></steps><result>The pipe does not move ' +
    'by hand.</result></taskbody></task>',
};

/** A few pages on which every style applies to something. */
export const specimen = (locale: string, numbering?: Numbering): Publication =>
  compose({
    library: textLibrary(
      [
        chapter,
        section,
        task,
        glossary,
        {
          id: 'specimen',
          kind: 'map',
          text:
            '<bookmap id="specimen"><booktitle><booklibrary>Brinewell Marine ' +
            'Instruments</booklibrary><mainbooktitle>Specimen</mainbooktitle>' +
            '<booktitlealt>An example of every style</booktitlealt></booktitle><bookmeta>' +
            '<author>The documentation team</author><critdates><created date="2026-03-09"/>' +
            '</critdates><bookid><edition>Revision 1</edition><booknumber>BM-1000</booknumber>' +
            '</bookid><bookrights><copyrfirst><year>2026</year></copyrfirst><bookowner>' +
            '<organization>Brinewell Marine Instruments</organization></bookowner></bookrights>' +
            '</bookmeta><chapter href="topic:quay"><topicref href="topic:rails"/>' +
            '<topicref href="topic:wedges"/></chapter><backmatter><topicgroup>' +
            '<glossref href="topic:well" keys="well" print="yes"/></topicgroup></backmatter>' +
            '</bookmap>',
        },
      ],
      [],
    ),
    map: 'specimen',
    locale,
    ...(numbering ? { numbering: numberingFor(numbering, locale) } : {}),
  });

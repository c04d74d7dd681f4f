/**
 * The elements of the learning and training content of DITA 1.3 by what they specialise. They are
 * generalised: a document type gives them a `class`, which files seldom write.
 */
const byBase: Readonly<Record<string, string>> = {
  topic:
    'learningBase learningOverview learningContent learningSummary learningAssessment learningPlan',
  body:
    'learningBasebody learningOverviewbody learningContentbody learningSummarybody ' +
    'learningAssessmentbody learningPlanbody',
  section:
    'lcIntro lcObjectives lcAudience lcDuration lcPrereqs lcChallenge lcInstruction lcReview ' +
    'lcSummary lcNextSteps lcResources lcInteraction lcProject lcNeedsAnalysis ' +
    'lcGapAnalysis lcIntervention lcTechnical lcProcedures',
  ph: 'lcObjectivesStem lcAreaCoords',
  ul: 'lcObjectivesGroup lcAnswerOptionGroup lcAnswerOptionGroup2',
  ol: 'lcSequenceOptionGroup lcSequenceOptionGroup2',
  li: 'lcObjective lcAnswerOption lcAnswerOption2 lcSequenceOption lcSequenceOption2',
  div:
    'lcTrueFalse2 lcSingleSelect2 lcMultipleSelect2 lcSequencing2 lcMatching2 lcHotspot2 ' +
    'lcOpenQuestion2 lcQuestion2 lcAnswerContent2 lcFeedback2 lcFeedbackCorrect2 ' +
    'lcFeedbackIncorrect2 lcAsset2 lcOpenAnswer2',
  fig:
    'lcTrueFalse lcSingleSelect lcMultipleSelect lcSequencing lcMatching lcHotspot ' +
    'lcOpenQuestion lcHotspotMap',
  p:
    'lcQuestion lcAnswerContent lcFeedback lcFeedbackCorrect lcFeedbackIncorrect lcAsset ' +
    'lcOpenAnswer',
  data: 'lcCorrectResponse lcCorrectResponse2 lcSequence lcSequence2 lcTime',
  simpletable: 'lcMatchTable lcMatchTable2',
  sthead: 'lcMatchingHeader lcMatchingHeader2',
  strow: 'lcMatchingPair lcMatchingPair2',
  stentry: 'lcItem lcItem2 lcMatchingItem lcMatchingItem2',
  figgroup: 'lcArea',
  keyword: 'lcAreaShape',
  map: 'learningGroupMap learningObjectMap',
  topicref:
    'learningGroup learningObject learningOverviewRef learningContentRef learningSummaryRef ' +
    'learningPlanRef learningPreAssessmentRef learningPostAssessmentRef ' +
    'learningContentComponentRef learningGroupMapRef learningObjectMapRef',
};

export const learningElements: ReadonlyMap<string, string> = new Map(
  Object.entries(byBase).flatMap(([base, names]) =>
    names.split(' ').map((name) => [name, base] as const),
  ),
);

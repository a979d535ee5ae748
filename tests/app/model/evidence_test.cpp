// The evidence behind a finding, in finished text: the same numbers as everywhere, each in its place.
#include "app/model/evidence.h"

#include <gtest/gtest.h>

#include "support/recorded_study.h"

namespace {

using app::Evidence;
using core::ConfigurationId;

class EvidenceOf : public testing::Test {
 protected:
  EvidenceOf() {
    recorded_.study = support::studyOf({"workload", "{log}"}, 2);
    recorded_.study.plan.order = core::Order::BalancedShuffle;
    recorded_.study.plan.rounds = 5;
    recorded_.study.plan.passes_per_visit = 2;
    recorded_.study.plan.drawn = core::drawRounds(2, 5, 3);
  }
  core::Study& study() { return recorded_.study; }
  void add(const char* workload, const char* preset) {
    core::Case another = study().cases[0];
    another.workload = workload;
    another.preset = preset;
    study().cases.push_back(another);
  }
  // The first case gains `percent`, each further one a quarter of the one before it.
  void record(double base, double percent, bool has_frames = true) {
    recorded_.record([=](core::Pass& pass, const core::Slot& slot) {
      const double share =
          slot.configuration == ConfigurationId::Changed ? std::pow(0.25, static_cast<double>(slot.case_index)) : 0;
      const double rate = base * (1 + 0.0007 * static_cast<double>((pass.id * 5) % 7)) * (1 + percent / 100 * share);
      pass.value = rate;
      const core::Lows one{1, {0.8 * rate, 20}, {0.7 * rate, 20}, {0.75 * rate, 20}};
      const core::Lows tenth{0.1, {0.6 * rate, 2}, {0.5 * rate, 2}, {0.55 * rate, 2}};
      if (has_frames) pass.frames = core::FrameSummary{2000, rate, {one, tenth}, 3, 1.5, 0, {}, 0, {97}};
    });
  }
  Evidence evidence(std::optional<std::size_t> of_case = 0) {
    return app::evidenceOf(study(), recorded_.judged(), of_case);
  }
  static const Evidence::Part* part(const Evidence& evidence, const char* id) {
    for (const Evidence::Part& one : evidence.parts)
      if (one.id == QLatin1String(id)) return &one;
    return nullptr;
  }
  static QString cell(const Evidence::Table& table, const QString& row, int column) {
    for (const QStringList& cells : table.rows)
      if (cells[0] == row) return cells.value(column);
    return QStringLiteral("no row ") + row;
  }
  static bool anyStartsWith(const QStringList& remarks, const char* words) {
    return std::any_of(remarks.begin(), remarks.end(),
                       [&](const QString& one) { return one.startsWith(QLatin1String(words)); });
  }

  support::RecordedStudy recorded_;
};

TEST_F(EvidenceOf, ACaseIsOneSentenceAndOneTableAndTheRestIsFolded) {
  record(57, 10);
  const Evidence found = evidence();
  EXPECT_EQ(found.title, QStringLiteral("Ring pass, 4K dome"));
  EXPECT_EQ(found.subtitle, QStringLiteral("10 + 10 passes, over 5 rounds"));
  EXPECT_TRUE(found.sentence.startsWith(QStringLiteral("+10."))) << found.sentence.toStdString();
  EXPECT_TRUE(found.sentence.endsWith(QStringLiteral("): gain")));
  EXPECT_EQ(found.table.columns, (QStringList{QString(), QStringLiteral("4800 MT/s"), QStringLiteral("6000 MT/s"),
                                              QStringLiteral("change")}));
  EXPECT_TRUE(cell(found.table, QStringLiteral("average FPS"), 1).startsWith(QStringLiteral("57.")));
  EXPECT_TRUE(cell(found.table, QStringLiteral("ms per frame"), 3).startsWith(QChar(0x2212)));
  EXPECT_EQ(cell(found.table, QStringLiteral("reaches 60 FPS"), 1), QStringLiteral("no"));
  EXPECT_EQ(cell(found.table, QStringLiteral("reaches 60 FPS"), 2), QStringLiteral("yes"));
  ASSERT_FALSE(found.remarks.isEmpty());
  EXPECT_EQ(found.remarks.front(),
            QStringLiteral("The target of 60 FPS is crossed: reached at 6000 MT/s, not at 4800 MT/s."));
  for (const char* id : {"lows", "certainty", "passes"}) EXPECT_NE(part(found, id), nullptr) << id;
}

TEST_F(EvidenceOf, LowsStandInThreeSchoolsWithTheirIntervalsAndTheirTarget) {
  record(80, 10);
  const Evidence found = evidence();
  const Evidence::Part* lows = part(found, "lows");
  ASSERT_NE(lows, nullptr);
  EXPECT_TRUE(lows->table.is_by_level);
  for (const char* school : {"percentile", "mean of slowest", "time share"}) {
    const QString row = QStringLiteral("1 % low (") + QLatin1String(school) + QLatin1Char(')');
    EXPECT_TRUE(cell(lows->table, row, 3).contains(QStringLiteral("\n("))) << school;
    EXPECT_TRUE(cell(lows->table,
                     QStringLiteral("0.1 % low (") + QLatin1String(school) + QStringLiteral(") (fewer than 10 frames)"),
                     3)
                    .startsWith(QStringLiteral("+10.")))
        << school;
  }
  // 64 FPS at the baseline already: four fifths of 80.
  EXPECT_TRUE(anyStartsWith(lows->remarks, "Reaches 60 FPS with its 1 % low (percentile): yes at 4800 MT/s"));
  record(80, 10, false);
  EXPECT_EQ(part(evidence(), "lows"), nullptr);  // a number alone has no frames
}

TEST_F(EvidenceOf, OtherYardsticksAndASecondOpinionStandBesideTheInterval) {
  record(57, 10);
  const Evidence found = evidence();
  const Evidence::Part* certainty = part(found, "certainty");
  ASSERT_NE(certainty, nullptr);
  EXPECT_TRUE(anyStartsWith(certainty->remarks, "Passes of one visit differ by 0."));
  EXPECT_TRUE(anyStartsWith(certainty->remarks, "Gain by a fixed band of 3 %, gain by two run-to-run sds"));
  EXPECT_TRUE(anyStartsWith(certainty->remarks, "Second opinion: median shift +10."));
  EXPECT_FALSE(anyStartsWith(certainty->remarks, "This holds unless"));  // rounds have seen their flips
  study().plan.order = core::Order::Blocked;
  study().plan.passes_per_level = 5;
  record(57, 10);
  const Evidence blocked = evidence();
  EXPECT_TRUE(anyStartsWith(part(blocked, "certainty")->remarks,
                            "This holds unless each flip alone shifts the bench at random by more than "));
  EXPECT_TRUE(blocked.sentence.endsWith(QStringLiteral("if flipping adds nothing")));
}

TEST_F(EvidenceOf, EveryPassOfTheCaseIsAccountedFor) {
  study().plan.warm_ups = 1;
  record(57, 10);
  recorded_.passes[1].excluded_because = "a background update ran";
  recorded_.passes[2].value.reset();
  recorded_.passes[2].status = core::PassStatus::Failed;
  const Evidence found = evidence();
  const Evidence::Part* passes = part(found, "passes");
  ASSERT_NE(passes, nullptr);
  EXPECT_EQ(passes->brief, QStringLiteral("18 passes"));
  EXPECT_TRUE(anyStartsWith(passes->remarks, "Not counted, a background update ran: visit 1, pass 1."));
  EXPECT_TRUE(anyStartsWith(passes->remarks, "Not counted, failed: visit 1, pass 2."));
  EXPECT_TRUE(anyStartsWith(passes->remarks, "Not counted, warm-up: visit 1, warm-up 1; visit 2, warm-up 1; "));
  EXPECT_TRUE(anyStartsWith(passes->remarks, "With every pass that was left out: +10."));
  EXPECT_TRUE(anyStartsWith(passes->remarks, "Judged by a threshold of 2 % at 95 % confidence"));
}

TEST_F(EvidenceOf, ADifferenceByNatureIsGivenInItsUnitAndWithoutPercent) {
  study().cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  recorded_.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value =
        40 - (slot.configuration == ConfigurationId::Changed ? 2.5 : 0) + 0.05 * static_cast<double>(pass.id % 3);
  });
  const Evidence found = evidence();
  EXPECT_TRUE(found.sentence.startsWith(QStringLiteral("−2."))) << found.sentence.toStdString();
  EXPECT_TRUE(found.sentence.contains(QStringLiteral("dB (")));
  EXPECT_FALSE(found.sentence.contains(QLatin1Char('%')));
  EXPECT_TRUE(cell(found.table, QStringLiteral("noise, dB"), 3).endsWith(QStringLiteral("dB")));
  EXPECT_EQ(cell(found.table, QStringLiteral("ms per frame"), 3), QStringLiteral("no row ms per frame"));
}

TEST_F(EvidenceOf, CausesStandWithTheirGradeAndPredictionsBesideTheHeadline) {
  recorded_.also.explanations = {{"Ring pass, 4K dome", core::Grade::Conjecture, "the cache holds it all", "M. Osei"},
                                 {"another case", core::Grade::Measured, "nothing of it", "M. Osei"}};
  recorded_.also.predictions = {{"T. Varga", 4}};
  record(57, 10);
  const QStringList remarks = evidence().remarks;
  EXPECT_TRUE(remarks.contains(QStringLiteral("Conjecture: the cache holds it all (M. Osei).")));
  EXPECT_TRUE(remarks.contains(QStringLiteral("T. Varga expected +4.0 %.")));
  EXPECT_EQ(remarks.filter(QStringLiteral("nothing of it")).size(), 0);
}

TEST_F(EvidenceOf, TheSuiteIsReadInPartsEachWithItsTable) {
  add("Ring pass", "2K dome");
  add("Nebula volume", "4K dome");
  add("Nebula volume", "2K dome");
  record(57, 10);
  const Evidence found = evidence(std::nullopt);
  EXPECT_EQ(found.title, QStringLiteral("All 4 cases"));
  EXPECT_EQ(found.table.rows.size(), 3U);
  EXPECT_TRUE(anyStartsWith(found.remarks, "4 of 4 cases improved (sign test p = 0.12; they share"));
  const Evidence::Part* presets = part(found, "by_preset");
  ASSERT_NE(presets, nullptr);
  EXPECT_EQ(cell(presets->table, QStringLiteral("4K dome"), 1), QStringLiteral("2"));
  ASSERT_NE(part(found, "by_workload"), nullptr);
  EXPECT_EQ(part(found, "by_workload")->table.rows.size(), 2U);
  const Evidence::Part* held = part(found, "presets_held");
  ASSERT_NE(held, nullptr);
  EXPECT_EQ(held->title, QStringLiteral("Costliest preset that reaches 60 FPS"));
  EXPECT_EQ(cell(held->table, QStringLiteral("Ring pass, average"), 1), QStringLiteral("none"));
  EXPECT_EQ(cell(held->table, QStringLiteral("Ring pass, average"), 2), QStringLiteral("4K dome"));
  EXPECT_EQ(held->brief, QStringLiteral("differs for 1 workload"));
  EXPECT_EQ(part(found, "how")->brief, QStringLiteral("geometric mean"));
}

TEST_F(EvidenceOf, OnlyOneLevelSaysWhatIsMissing) {
  record(57, 10);
  std::erase_if(recorded_.passes, [this](const core::Pass& pass) {
    return core::scheduleOf(study())[pass.slot].configuration == ConfigurationId::Changed;
  });
  const Evidence found = evidence();
  EXPECT_TRUE(found.sentence.isEmpty());
  EXPECT_EQ(found.remarks.front(), QStringLiteral("Not measured at both levels yet."));
}

}  // namespace

// The report page: what must stand on it, what must not, and that it is the same each time.
#include "report/report.h"

#include <gtest/gtest.h>

#include <QXmlStreamReader>
#include <algorithm>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/lever_axis.h"
#include "report/shape_svg.h"
#include "support/recorded_study.h"

namespace {

class Pages : public testing::Test {
 protected:
  Pages() {
    recorded_.study = support::studyOf({"workload", "{log}"}, 3);
    recorded_.study.plan.order = core::Order::ThereAndBack;
    recorded_.study.plan.passes_per_level = 4;
    add("2K dome");
  }
  void add(const char* preset) {
    core::Case another = recorded_.study.cases[0];
    another.preset = preset;
    recorded_.study.cases.push_back(another);
  }
  // 4K dome crosses the target when changed; 2K dome holds it either way. Frames with lows.
  void record(double gain = 1.1) {
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      const double rate = (slot.case_index == 0 ? 57 : 100) *
                          (slot.configuration == core::ConfigurationId::Changed ? gain : 1) *
                          (1 + 0.001 * static_cast<double>(pass.id % 3));
      pass.value = rate;
      core::Lows one{1, {0.8 * rate, 20}, {0.7 * rate, 20}, {0.75 * rate, 20}};
      core::Lows tenth{0.1, {0.6 * rate, 2}, {0.5 * rate, 2}, {0.55 * rate, 2}};
      pass.frames = core::FrameSummary{2000, rate, {one, tenth}, 3, 1.5, 0, {}, 0, {97}};
    });
  }
  core::Result<std::string> made() {
    judgement_ = recorded_.judged();
    record_ = recorded_.recorded();
    return report::htmlPage({recorded_.study, record_, judgement_, "0.1.0", "2026-11-25"});
  }
  std::string page() {
    const auto html = made();
    EXPECT_TRUE(html.ok()) << html.error().sentence();
    return *html;
  }
  /// As a person reads it: a space that does not break is a space.
  static bool has(std::string html, const std::string& words) {
    for (std::size_t at = 0; (at = html.find("\xC2\xA0", at)) != std::string::npos;) html.replace(at, 2, " ");
    return html.find(words) != std::string::npos;
  }
  // Every start has its end, every attribute its quotes.
  static std::string flawIn(const std::string& xml) {
    QXmlStreamReader reader(QString::fromStdString(xml));
    while (!reader.atEnd()) reader.readNext();
    return reader.hasError() ? reader.errorString().toStdString() : "";
  }

  support::RecordedStudy recorded_;
  core::Record record_;
  core::Judgement judgement_;
};

TEST_F(Pages, SayTheClaimTheNumbersAndHowTheyCameAbout) {
  record();
  const std::string html = page();
  const core::Findings& findings = judgement_.findings;
  EXPECT_TRUE(has(html, "<h1>" + report::escaped(judgement_.claim.sentence()) + "</h1>"));
  EXPECT_TRUE(has(html, "The target of 60 FPS is reached at 6000 MT/s only in: Ring pass, 4K dome."));
  EXPECT_TRUE(has(html, core::changeText(findings.suite->improvement)));
  EXPECT_TRUE(has(html, "The costliest preset that reaches 60 FPS"));
  EXPECT_TRUE(has(html, "Lows are computed in three ways"));
  EXPECT_TRUE(has(html, "there and back, 4 passes at each level in two visits"));
  EXPECT_TRUE(has(html, "Threshold: 2 %, set before the first pass. Yardstick: interval."));
  EXPECT_TRUE(has(html, "Each of the 2 cases rests on visits 1 to 4, passes 1 and 2 of each"));
  EXPECT_TRUE(has(html, "What this is not"));
  for (const core::Doubt& doubt : judgement_.doubts)
    EXPECT_TRUE(has(html, report::escaped(doubt.sentence))) << doubt.id;
}

TEST_F(Pages, AreTheSameByteForByteAndStandAlone) {
  record();
  const std::string html = page();
  EXPECT_EQ(page(), html);
  for (const char* outside : {"http:", "src=", "href=", "url(", "<script", "@import"}) {
    const bool is_namespace_alone =
        std::string_view(outside) == "http:" && html.find("http:") == html.find("http://www.w3.org/2000/svg");
    EXPECT_TRUE(is_namespace_alone || !has(html, outside)) << outside;
  }
}

TEST_F(Pages, LetNoNameBecomeMarkup) {
  recorded_.study.bench = "<script>alert(1)</script>";
  recorded_.study.cases[0].workload = "Ring & \"pass\"";
  recorded_.also.pins = {{recorded_.study.cases[0].title(), "<b>look</b>"}};
  recorded_.also.explanations = {{recorded_.study.cases[0].title(), core::Grade::Conjecture, "<i>heat</i>", "M. Osei"}};
  recorded_.also.judging_changes = {{"<u>why</u>", true}};
  record();
  const std::string html = page();
  for (const char* markup : {"<script", "<b>", "<i>", "<u>", "& \""}) EXPECT_FALSE(has(html, markup)) << markup;
  EXPECT_TRUE(has(html, "&lt;script&gt;"));
  EXPECT_TRUE(has(html, "Conjecture: &lt;i&gt;heat&lt;/i&gt; (Person 1)"));
  const std::size_t chart = html.find("<svg");
  EXPECT_EQ(flawIn(html.substr(chart, html.find("</svg>") + 6 - chart)), "");
}

TEST_F(Pages, TellWhatWasChangedLeftOutAndExpected) {
  recorded_.also.judging_changes = {{"threshold 2 % became 1 %: the house rule", true}};
  recorded_.also.predictions = {{"T. Varga", -3}};
  recorded_.also.skipped = {{0, "the save is broken"}};
  record();
  recorded_.passes[2].excluded_because = "a background update ran";
  recorded_.passes[3].value.reset();
  recorded_.passes[3].status = core::PassStatus::Failed;
  const std::string html = page();
  EXPECT_FALSE(has(html, "set before the first pass"));
  EXPECT_TRUE(has(html, "was changed after they could be seen: threshold 2 % became 1 %: the house rule."));
  EXPECT_TRUE(has(html, "Person 1 expected −3.0 %."));
  EXPECT_FALSE(has(html, "T. Varga"));
  EXPECT_TRUE(has(html, "A pass was skipped: the save is broken."));
  EXPECT_TRUE(has(html, "visit 1, pass 1 (a background update ran)"));
  EXPECT_TRUE(has(html, "visit 1, pass 2 (failed)"));
}

TEST_F(Pages, AreNotMadeOfAStudyThatIsSealedOrIncomplete) {
  record();
  recorded_.passes.pop_back();
  const auto html = made();
  ASSERT_FALSE(html.ok());
  EXPECT_EQ(html.error().kind, core::ErrorKind::NotAllowed);
  EXPECT_NE(html.error().what.find("the plan is not complete"), std::string::npos);
}

TEST_F(Pages, OfATimeShowTheTimeAndNoTarget) {
  for (core::Case& a_case : recorded_.study.cases) a_case.metric = {"render time", "s", core::Direction::LowerIsBetter};
  recorded_.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value =
        (slot.configuration == core::ConfigurationId::Changed ? 80 : 100) + 0.1 * static_cast<double>(pass.id % 3);
  });
  const std::string html = page();
  std::string level = core::valueText(judgement_.findings.cases[0].effect->level_baseline, "s");
  level.replace(level.find(' '), 1, "&nbsp;");
  EXPECT_TRUE(has(html, level)) << level;
  EXPECT_TRUE(has(html, "−20.0&nbsp;%"));  // of the time, in the table
  EXPECT_FALSE(has(html, "FPS"));
  EXPECT_FALSE(has(html, "Three schools"));
}

TEST_F(Pages, OfManyCasesDrawTheirChartInParts) {
  for (int i = 0; i < 30; ++i) add("8K dome");
  record();
  const core::Findings findings = recorded_.findings();
  EXPECT_EQ(report::leverChartRows(findings), 33U);
  const auto titles = [](const std::string& svg) {
    std::size_t count = 0;
    for (std::size_t at = 0; (at = svg.find("font-size=\"13\" font-weight", at)) != std::string::npos; ++at) ++count;
    return count;
  };
  const auto drawn = [&](report::Rows part) {
    const std::string svg = report::leverChartSvg(recorded_.study, findings, {}, report::kNight, 900, part);
    EXPECT_EQ(flawIn(svg), "");
    return svg;
  };
  const std::string first = drawn({0, 20});
  const std::string second = drawn({20, 20});
  EXPECT_TRUE(has(first, "All 32 cases"));
  EXPECT_FALSE(has(second, "All 32 cases"));
  // A title for each row's change, and one for the suite.
  EXPECT_EQ(titles(first), 21U);
  EXPECT_EQ(titles(second), 13U);
  EXPECT_EQ(titles(drawn({40, 20})), 0U);
  // The same axis in every part, however high the part is.
  const auto axis = [](const std::string& svg) {
    const std::size_t begin = svg.find("<path");
    return svg.substr(begin, svg.find('V', begin) - begin);
  };
  EXPECT_EQ(axis(first), axis(second));
}

TEST_F(Pages, SayOfTheBenchOnlyWhatIsSo) {
  recorded_.study.variable().kind = "memory_speed";
  record();
  std::vector<core::VisitCapture> captures;
  for (const core::Visit& visit : recorded_.visits) {
    core::VisitCapture one{visit.id, core::CaptureMoment::Start, {}};
    one.capture.boot_id = visit.boot_id;
    const bool is_changed = visit.configuration == core::ConfigurationId::Changed;
    for (const auto& [name, value, unit] :
         {std::tuple{"dmi/memory/DIMM_A2/configured_speed", is_changed ? "6000" : "4800", "MT/s"},
          {"kernel/osrelease", is_changed ? "6.12.49" : "6.12.48", ""},
          {"memory/installed", "34359738368", "bytes"}}) {
      core::Fact fact;
      fact.name = name;
      fact.value = value;
      fact.unit = unit;
      if (*unit) fact.number = std::stod(value);
      one.capture.put(fact);
    }
    captures.push_back(one);
  }
  recorded_.also.captures = captures;
  const std::string html = page();
  EXPECT_FALSE(has(html, "and nothing else did"));
  EXPECT_TRUE(has(html, "<p>Meant to change:</p>\n<ul><li>memory configured speed rose from 4800 to 6000 MT/s"));
  EXPECT_TRUE(has(html, "<p>Wrong at this bench:</p>\n<ul><li>kernel changed from 6.12.48 to 6.12.49"));
  EXPECT_TRUE(has(html, "<td>memory installed</td><td>32 GiB</td><td>32 GiB</td>"));
  EXPECT_TRUE(has(html, "<td>kernel</td>"));
  EXPECT_TRUE(has(html, "0.1 % low (percentile)"));
}

TEST_F(Pages, PutWhatWasFeltAgainstWhatWasCounted) {
  record();
  recorded_.also.felt = {{1, "M. Osei", "hitches"}, {2, "M. Osei", "smooth"}};
  const std::string html = page();
  EXPECT_TRUE(has(html, "Ring pass, 4K dome at 4800 MT/s: hitches in 1 pass, smooth in 1 pass; measured 57.")) << html;
}

// Every shape has its picture, its tables and its page, whatever it is made of.
TEST(PagesOfShapes, SayEveryContrastEveryConfigurationAndWhatIsMissing) {
  core::Study missing = support::crossedOf();
  missing.configurations = {{"", {0, 0}}, {"", {1, 0}}, {"", {0, 1}}};
  missing.plan.drawn = core::drawRounds(3, 5, 1);
  core::Study twelve = support::ladderOf(3);
  while (twelve.variable().levels.size() < 12) {
    core::Level level;
    level.name = "Gen " + std::to_string(twelve.variable().levels.size() + 1);
    twelve.variable().levels.push_back(level);
  }
  twelve.plan.drawn = core::drawRounds(12, 3, 1);
  for (core::Study study : {support::ladderOf(), support::crossedOf(), support::chainOf(), missing, twelve}) {
    study.cases.push_back(study.cases[0]);
    study.cases[1].preset = "8K <dome>";
    support::RecordedStudy recorded{study};
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value =
          60 * (1 + 0.04 * static_cast<double>(core::placeOf(slot.configuration))) * (1 + 1e-3 * (slot.visit % 3));
    });
    const core::Record record = recorded.recorded();
    const core::Judgement judged = recorded.judged();
    const auto page = report::htmlPage({study, record, judged, "0.1.0", "2026-11-25"});
    ASSERT_TRUE(page) << page.error().sentence();
    for (const core::ConfigurationId one : core::configurationsOf(study))
      EXPECT_NE(page->find(study.nameOf(one)), std::string::npos) << study.nameOf(one);
    for (const core::AskedContrast& asked : judged.shape.asked)
      EXPECT_NE(page->find(core::contrastName(asked)), std::string::npos) << core::contrastName(asked);
    EXPECT_EQ(page->find("<dome>"), std::string::npos);  // names are text, also in pictures
    for (const int width : {400, 1200}) {
      const std::string svg = report::shapeSvg(study, judged.shape, std::nullopt, report::kPaper, width, 300);
      QXmlStreamReader reader(QString::fromStdString(svg));
      while (!reader.atEnd()) reader.readNext();
      EXPECT_FALSE(reader.hasError()) << reader.errorString().toStdString() << svg;
      EXPECT_EQ(svg.find("nan"), std::string::npos);
      EXPECT_EQ(svg.find("inf\""), std::string::npos);
    }
  }
  EXPECT_TRUE(report::shapeSvg(support::studyOf({"true"}), {}, 0, report::kPaper, 900, 300).empty());
}

TEST(ShapePictures, MarkTheLevelThatIsEnoughAsProvisionalWhileThePlanIsOpen) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.recordRates({60, 80, 99.9, 100});
  const auto svg = [&] { return report::shapeSvg(ladder.study, ladder.judged().shape, 0, report::kPaper, 900, 300); };
  EXPECT_NE(svg().find("▲ enough<"), std::string::npos) << svg();
  ladder.passes.pop_back();
  EXPECT_EQ(svg().find("▲ enough<"), std::string::npos);
  EXPECT_NE(svg().find("▲ enough, provisional<"), std::string::npos) << svg();
}

/// Where a text of a picture lies, from its letters: a little less than they need, so that what is told is sure.
struct TextBox {
  QString words;
  double left = 0;
  double right = 0;
  double base = 0;
  double size = 0;
};

std::vector<TextBox> textsOf(const std::string& svg) {
  std::vector<TextBox> texts;
  QXmlStreamReader reader(QString::fromStdString(svg));
  while (!reader.atEnd()) {
    if (reader.readNext() != QXmlStreamReader::StartElement || reader.name() != QLatin1String("text")) continue;
    const QXmlStreamAttributes at = reader.attributes();
    TextBox box;
    const double x = at.value(QLatin1String("x")).toDouble();
    box.base = at.value(QLatin1String("y")).toDouble();
    box.size = at.value(QLatin1String("font-size")).toDouble();
    const QString anchor = at.value(QLatin1String("text-anchor")).toString();
    box.words = reader.readElementText();
    const double width = 0.5 * box.size * static_cast<double>(box.words.size());
    box.left = anchor == QLatin1String("middle") ? x - width / 2 : anchor == QLatin1String("end") ? x - width : x;
    box.right = box.left + width;
    if (!box.words.isEmpty()) texts.push_back(box);
  }
  return texts;
}

// With 12 levels, or 12 steps, or 3 x 4 cells, in as little room as the window gives.
TEST(PagesOfShapes, LayNoTextOverAnother) {
  core::Study twelve = support::ladderOf(3);
  core::Study chain = support::chainOf(3);
  while (twelve.variable().levels.size() < 12) {
    core::Level level;
    level.name = fmt::format("Gen {}", twelve.variable().levels.size() + 1);
    twelve.variable().levels.push_back(level);
    level.name = fmt::format("dock {}", twelve.variable().levels.size());
    chain.variables[1].levels.push_back(level);
    chain.configurations.push_back({level.name, {1, chain.variables[1].levels.size() - 1}});
  }
  core::Study crossed = support::crossedOf(3);
  for (const char* name : {"mode 2", "mode 3"}) {
    core::Level level;
    level.name = name;
    crossed.variables[1].levels.push_back(level);
  }
  crossed.variables[0].levels.push_back({"Gen 5"});
  for (core::Study study : {support::ladderOf(), support::chainOf(), support::crossedOf(), twelve, chain, crossed}) {
    study.plan.rounds = 3;
    study.plan.drawn = core::drawRounds(study.configurationCount(), 3, 1);
    support::RecordedStudy recorded{study};
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value =
          60 * (1 + 0.25 * static_cast<double>(core::placeOf(slot.configuration))) * (1 + 1e-3 * (slot.visit % 3));
    });
    const core::Judgement judged = recorded.judged();
    const int height = report::shapeHeight(study, 150);
    const auto texts =
        textsOf(report::shapeSvg(study, judged.shape, judged.shape.headlineCase(), report::kPaper, 700, height));
    EXPECT_GT(texts.size(), 5U);
    for (std::size_t i = 0; i < texts.size(); ++i)
      for (std::size_t j = i + 1; j < texts.size(); ++j) {
        const bool is_beside = texts[i].right <= texts[j].left || texts[j].right <= texts[i].left;
        const bool is_below = std::abs(texts[i].base - texts[j].base) >= 1.1 * std::max(texts[i].size, texts[j].size);
        EXPECT_TRUE(is_beside || is_below)
            << core::shapeName(study.shape) << " of " << study.configurationCount() << ": “"
            << texts[i].words.toStdString() << "” lies over “" << texts[j].words.toStdString() << "”";
      }
  }
}

// The percentages of the other levels are sealed like any until all of them are in.
TEST(Reports, PrintNoPercentWhileALevelIsNotReachableAndTheOthersAreNotIn) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.study.plan.is_sealed = true;
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    if (slot.configuration != core::configurationAt(3))
      pass.value = 60 + 5.0 * static_cast<double>(core::placeOf(slot.configuration)) + 0.1 * slot.visit;
  });
  std::erase_if(ladder.passes, [](const core::Pass& pass) { return !pass.value; });
  ladder.passes.resize(ladder.passes.size() - 3);
  ladder.also.unreachable = {{core::configurationAt(3), "it does not start"}};
  const core::Judgement judged = ladder.judged();
  ASSERT_TRUE(judged.is_sealed);
  const auto page = report::htmlPage({ladder.study, ladder.recorded(), judged, "1", "2026-11-29"});
  ASSERT_FALSE(page.ok());
  EXPECT_NE(page.error().what.find("the plan is not complete"), std::string::npos);
}

TEST(AxisTicks, HaveNoDecimalsThatTheyDoNotNeed) {
  EXPECT_EQ(core::tickText(10), "+10 %");
  EXPECT_EQ(core::tickText(-2.5), "−2.5 %");
  EXPECT_EQ(core::tickText(0.1 + 0.2), "+0.3 %");
  EXPECT_EQ(core::tickText(0.1 + 0.2 - 0.3), "0") << "ticks are added up";
}

}  // namespace

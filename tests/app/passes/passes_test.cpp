// The passes place, driven as a person would: typing results, bringing in logs, looking at frames.
#include <qcustomplot.h>

#include <QClipboard>
#include <QGuiApplication>
#include <QPlainTextEdit>
#include <QTest>

#include <fmt/format.h>

#include "session/study/log_import.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

using support::waitUntil;

class Passes : public support::WindowTest {
 protected:
  static core::Study byHand() {
    core::Study study = support::timedStudyOf({}, 2);
    study.cases[0].source = core::ResultSource::ByHand;
    study.cases[0].command.clear();
    return study;
  }
  static core::Study framed() {
    core::Study study = support::studyOf({"w", "{log}"}, 2);
    study.variable().levels[0].name = "4800 MT/s";
    study.variable().levels[1].name = "6000 MT/s";
    return study;
  }
  QString writeLog(const char* name, int frames, double ms) {
    std::string text = "frame_ms\n";
    for (int i = 0; i < frames; ++i) text += std::to_string(ms + 0.01 * (i % 7)) + "\n";
    folder_.write(name, text);
    return QString::fromStdString(folder_ / name);
  }
  /// The dialog in which a log is brought in, and what a person looks at there.
  struct Importing {
    QDialog* dialog;
    QTableView* table;
    QLabel* said;
    QPushButton* file;
  };
  Importing bringIn(const std::string& log) {
    folder_.write("ring pass_4800mts_1.csv", log);
    prompts_.logs = {QString::fromStdString(folder_ / "ring pass_4800mts_1.csv")};
    press("importButton");
    auto* dialog = window_->findChild<QDialog*>(QStringLiteral("importDialog"));
    return {dialog, dialog->findChild<QTableView*>(QStringLiteral("importTable")),
            dialog->findChild<QLabel*>(QStringLiteral("importSaid")),
            dialog->findChild<QPushButton*>(QStringLiteral("importNowButton"))};
  }
  std::size_t passes() const { return study_->session().recorded().passes.size(); }
};

TEST_F(Passes, AskWhichSignPartsTheDecimalsAndReadAColumnOneWay) {
  openStudy(byHand());
  window_->goTo(core::Place::Passes);
  auto* table = find<QTableView>("typedResults");
  EXPECT_FALSE(find<QWidget>("decimalQuestion")->isVisible());
  QGuiApplication::clipboard()->setText(QStringLiteral("4,780\n5,012"));
  QTest::keySequence(table, QKeySequence::Paste);
  EXPECT_EQ(passes(), 0U);  // nothing is taken before somebody has said
  EXPECT_TRUE(find<QWidget>("decimalQuestion")->isVisible());
  EXPECT_EQ(find<QPushButton>("thousandsButton")->text(), QStringLiteral("4780 (thousands)"));
  EXPECT_EQ(find<QPushButton>("decimalsButton")->text(), QStringLiteral("4.780 (decimals)"));
  find<QPushButton>("thousandsButton")->click();
  ASSERT_EQ(passes(), 2U);  // and the rest of the column goes the same way
  EXPECT_DOUBLE_EQ(*study_->session().recorded().passes[0].value, 4780);
  EXPECT_DOUBLE_EQ(*study_->session().recorded().passes[1].value, 5012);
  EXPECT_FALSE(find<QWidget>("decimalQuestion")->isVisible());
}

TEST_F(Passes, TellAColumnsDecimalsByItsOtherNumbers) {
  openStudy(byHand());
  window_->goTo(core::Place::Passes);
  QGuiApplication::clipboard()->setText(QStringLiteral("4,780\n51,2"));
  QTest::keySequence(find<QTableView>("typedResults"), QKeySequence::Paste);
  ASSERT_EQ(passes(), 2U);
  EXPECT_DOUBLE_EQ(*study_->session().recorded().passes[0].value, 4.78);
}

TEST_F(Passes, AreTypedWithTheKeyboardAloneAndPastedFromASpreadsheet) {
  openStudy(byHand());
  window_->goTo(core::Place::Passes);
  auto* table = find<QTableView>("typedResults");
  ASSERT_TRUE(table->isVisible());
  EXPECT_EQ(table->currentIndex().column(), app::TypedResultsModel::ResultColumn);
  QTest::keyClicks(table, QStringLiteral("5"));  // any key begins
  auto* editor = table->findChild<QLineEdit*>();
  ASSERT_NE(editor, nullptr);
  QTest::keyClicks(editor, QStringLiteral("0,4"));
  QTest::keyClick(editor, Qt::Key_Return);
  ASSERT_TRUE(waitUntil([&] { return passes() == 1; }));
  EXPECT_DOUBLE_EQ(*study_->session().recorded().passes[0].value, 50.4);
  ASSERT_TRUE(waitUntil([&] { return table->currentIndex().row() == 1; }));
  QGuiApplication::clipboard()->setText(QStringLiteral("50.1\tx\n504\n\nfast\n40"));
  QTest::keySequence(table, QKeySequence::Paste);
  EXPECT_EQ(passes(), 3U);  // up to the line that is none
  EXPECT_TRUE(textOf("typingSaid").contains(QStringLiteral("'fast' is not a number")));
  const auto remark = table->model()->index(2, table->model()->columnCount() - 1).data().toString();
  EXPECT_TRUE(remark.contains(QStringLiteral("decimal point"))) << remark.toStdString();
  folder_.write("screen.png", std::string("\x89PNG\r\n\x1a\n", 8) + "picture");
  prompts_.picture = QString::fromStdString(folder_ / "screen.png");
  table->setCurrentIndex(table->model()->index(0, app::TypedResultsModel::ResultColumn));
  press("proofButton");
  EXPECT_EQ(study_->session().open().file().attachments(study_->session().recorded().passes[0].id)->size(), 1U);
}

TEST_F(Passes, AreTypedAsNotPossibleWhereThereIsNoNumberToBeRead) {
  core::Study study = support::timedStudyOf({}, 1);
  study.cases[0].source = core::ResultSource::ByHand;
  openStudy(study);
  trigger("passesAction");
  auto* model = find<QTableView>("typedResults")->model();
  const auto cell = model->index(0, app::TypedResultsModel::ResultColumn);
  EXPECT_FALSE(model->setData(cell, QStringLiteral("does not run"), Qt::EditRole)) << "without a reason";
  EXPECT_TRUE(model->setData(cell, QStringLiteral("Does not run: the picture stays black"), Qt::EditRole));
  EXPECT_EQ(cell.data().toString(), QStringLiteral("does not run"));
  const core::Pass& pass = study_->session().recorded().passes.front();
  EXPECT_EQ(pass.status, core::PassStatus::Finished);
  EXPECT_EQ(pass.does_not_run, "seen at the bench: the picture stays black");
  EXPECT_EQ(study_->judgement().possible.front().answer, core::PossibleAnswer::DoesNotRun);
}

TEST_F(Passes, HaveACellForEachResultAndAreFiledAsAWhole) {
  core::Study study = byHand();
  for (const char* name : {"sky", "load time"}) {
    core::CaseResult further;
    further.name = name;
    further.source = core::ResultSource::ByHand;
    further.metric = {name, "points"};
    study.cases[0].further.push_back(further);
  }
  openStudy(study);
  window_->goTo(core::Place::Passes);
  auto* table = find<QTableView>("typedResults");
  const int result = app::TypedResultsModel::ResultColumn;
  EXPECT_EQ(table->model()->headerData(result + 1, Qt::Horizontal).toString(), QStringLiteral("sky"));
  for (const char* typed : {"50,4", "41.2", "-"}) {
    EXPECT_EQ(passes(), 0U) << "not before the row is whole";
    const int column = table->currentIndex().column();
    QTest::keyClicks(table, QString::fromLatin1(typed).left(1));
    auto* editor = table->findChild<QLineEdit*>();
    ASSERT_NE(editor, nullptr);
    QTest::keyClicks(editor, QString::fromLatin1(typed).mid(1));
    QTest::keyClick(editor, Qt::Key_Return);
    ASSERT_TRUE(waitUntil([&] { return table->currentIndex().column() != column; })) << typed;
    QTest::qWait(0);
  }
  ASSERT_EQ(passes(), 1U);
  EXPECT_EQ(table->currentIndex().row(), 1);
  const core::Pass& pass = study_->session().recorded().passes[0];
  EXPECT_DOUBLE_EQ(*pass.value, 50.4);
  EXPECT_EQ(pass.further, (std::vector<core::FurtherValue>{{41.2, ""}, {{}, "Nobody typed it."}}));
  EXPECT_EQ(table->model()->index(0, result + 1).data().toString(), QStringLiteral("41.2 points"));
  EXPECT_EQ(table->model()->index(0, result).data(Qt::EditRole).toString(), QStringLiteral("50,4"));
  table->model()->setData(table->model()->index(0, result), QStringLiteral("50,6"));
  ASSERT_EQ(passes(), 2U) << "what nobody could read stays so";
  // One cell mended files the row anew; a row of a spreadsheet is taken as a whole.
  table->model()->setData(table->model()->index(0, result + 2), QStringLiteral("3.5"));
  ASSERT_EQ(passes(), 3U);
  EXPECT_EQ(study_->session().recorded().passes[2].further[1], (core::FurtherValue{3.5, ""}));
  EXPECT_FALSE(study_->session().recorded().passes[0].excluded_because.empty());
  table->setCurrentIndex(table->model()->index(1, result));
  QGuiApplication::clipboard()->setText(QStringLiteral("51.1\t42\t4.5\tx"));
  QTest::keySequence(table, QKeySequence::Paste);
  ASSERT_EQ(passes(), 4U);
  EXPECT_EQ(study_->session().recorded().passes[3].further, (std::vector<core::FurtherValue>{{42, ""}, {4.5, ""}}));
}

TEST_F(Passes, WaitForTheirResultWhileASheetRuns) {
  openStudy(byHand());
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([&] { return study_->session().state() == session::State::AwaitingResult; }));
  EXPECT_EQ(nextText(), QStringLiteral("Type the result"));
  trigger("nextAction");
  EXPECT_TRUE(find<QTableView>("typedResults")->isVisible());
  study_->stopNow();
}

TEST_F(Passes, AreBroughtInFromLogsOnceAPersonHasLookedAtThem) {
  openStudy(framed());
  window_->goTo(core::Place::Passes);
  prompts_.logs = {writeLog("ring pass_4800mts_1.csv", 600, 20), writeLog("ring pass_6000mts_1.csv", 600, 18),
                   writeLog("unnamed.csv", 600, 19)};
  folder_.write("broken_4800mts.csv", "frame_ms\n16\nx\n");
  prompts_.logs << QString::fromStdString(folder_ / "broken_4800mts.csv");
  press("importButton");
  auto* dialog = window_->findChild<QDialog*>(QStringLiteral("importDialog"));
  ASSERT_NE(dialog, nullptr);
  auto* file = dialog->findChild<QPushButton*>(QStringLiteral("importNowButton"));
  auto* table = dialog->findChild<QTableView*>(QStringLiteral("importTable"));
  ASSERT_TRUE(waitUntil([&] { return file->isEnabled() && table->model()->rowCount() == 4; }));
  EXPECT_EQ(file->text(), QStringLiteral("File 2 runs"));
  EXPECT_TRUE(dialog->findChild<QPlainTextEdit*>()->toPlainText().startsWith(QStringLiteral("frame_ms")));
  EXPECT_EQ(passes(), 0U);
  table->selectRow(3);
  EXPECT_TRUE(dialog->findChild<QLabel*>(QStringLiteral("importSaid"))->text().contains(QStringLiteral("line 3")));
  table->selectRow(2);  // a log whose name says nothing is placed by hand
  auto* level = dialog->findChild<QComboBox*>(QStringLiteral("importLevelBox"));
  level->setCurrentIndex(1);
  Q_EMIT level->activated(1);
  EXPECT_EQ(file->text(), QStringLiteral("File 3 runs"));
  file->click();
  ASSERT_TRUE(waitUntil([&] { return passes() == 3; }));
  EXPECT_NEAR(*study_->session().recorded().passes[0].value, 1000 / 20.03, 0.01);
}

// Numbers without a name: nothing is filed before a person has said what they are.
TEST_F(Passes, OfALogWithoutAUnitWaitForAPersonsWord) {
  openStudy(framed());
  window_->goTo(core::Place::Passes);
  std::string log;
  for (int i = 0; i < 200; ++i) log += fmt::format("{}\n", 20 + i % 2);
  const Importing shown = bringIn(log);
  ASSERT_TRUE(waitUntil([&] { return shown.table->model()->rowCount() == 1 && !shown.said->text().isEmpty(); }));
  EXPECT_TRUE(waitUntil([&] { return shown.said->text().contains(QStringLiteral("in which unit")); }, 5000))
      << shown.said->text().toStdString();
  EXPECT_FALSE(shown.file->isEnabled());
  EXPECT_EQ(shown.table->model()->index(0, 2).data().toString(), QStringLiteral("48.8 FPS"));  // as it is guessed
  auto* unit = shown.dialog->findChild<QComboBox*>(QStringLiteral("importUnitBox"));
  unit->setCurrentIndex(0);
  Q_EMIT unit->activated(0);
  EXPECT_TRUE(shown.file->isEnabled()) << shown.said->text().toStdString();
}

TEST_F(Passes, AreReadAgainWhereAPersonCorrectsWhichColumnTellsTheTime) {
  openStudy(framed());
  window_->goTo(core::Place::Passes);
  std::string log = "at_s,shown_ms\n";
  for (int i = 0; i < 200; ++i) log += fmt::format("{:.4f},{}\n", 0.02 * i, i == 150 ? 0 : 10);
  const Importing shown = bringIn(log);
  ASSERT_TRUE(waitUntil([&] { return shown.table->model()->rowCount() == 1 && shown.file->isEnabled(); }));
  const auto average = [&] { return shown.table->model()->index(0, 2).data().toString(); };
  EXPECT_EQ(average(), QStringLiteral("50.0 FPS"));
  auto* column = shown.dialog->findChild<QComboBox*>(QStringLiteral("importColumnBox"));
  const auto choose_column = [&](int index) {
    column->setCurrentIndex(index);
    Q_EMIT column->activated(index);
  };
  choose_column(1);  // its frame of no length is found, and the choice can be taken back
  EXPECT_TRUE(shown.said->text().contains(QStringLiteral("line 152"))) << shown.said->text().toStdString();
  EXPECT_FALSE(shown.file->isEnabled());
  choose_column(0);  // and comes with its meaning and unit
  EXPECT_EQ(average(), QStringLiteral("50.0 FPS"));
  EXPECT_TRUE(shown.file->isEnabled());
}

TEST_F(Passes, AreLaidOverEachOtherFrameByFrame) {
  core::Study study = framed();
  study.plan.is_sealed = false;
  openStudy(study);
  for (const char* name : {"ring pass_4800mts_1.csv", "ring pass_6000mts_1.csv"}) {
    const auto path = writeLog(name, 500, name[10] == '4' ? 20 : 10).toStdString();
    const auto reading = session::readLog(path, study_->benches(), "bench");
    const core::ConfigurationId configuration =
        name[10] == '4' ? core::ConfigurationId::Baseline : core::ConfigurationId::Changed;
    ASSERT_TRUE(study_->session().outside().importFrames(
        study_->session().open().ledger().pendingOf(0, configuration).front(), session::framesOf(*reading, 0)));
  }
  window_->goTo(core::Place::Passes);
  press("framesButton");
  auto* plot = find<QCustomPlot>("tracePlot");
  ASSERT_TRUE(plot->isVisible());
  EXPECT_EQ(plot->graphCount(), 2);  // the two levels
  choose("firstTraceBox", 0);
  choose("secondTraceBox", 0);
  EXPECT_EQ(plot->graphCount(), 1);
  choose("secondTraceBox", 2);
  choose("traceAxisBox", 2);  // by share of the frames: the same scene, at twice the pace
  EXPECT_EQ(plot->graphCount(), 2);
  EXPECT_NEAR(plot->graph(1)->data()->at(250)->value, 10, 0.1);
  auto* bars = qobject_cast<QCPBars*>(find<QCustomPlot>("stretchPlot")->plottable(0));
  ASSERT_NE(bars, nullptr);
  EXPECT_NEAR(bars->data()->at(0)->value, 100, 1);  // twice the frame rate in every stretch
  const auto says = [this](const char* words) {
    return waitUntil([this, words] { return textOf("framesMetrics").contains(QLatin1String(words)); });
  };
  EXPECT_EQ(find<QLabel>("framesMetrics")->textFormat(), Qt::RichText) << "it is read as a table";
  EXPECT_TRUE(says(">500<")) << textOf("framesMetrics").toStdString();
  plot->xAxis->setRange(0, 9.9);
  EXPECT_TRUE(says(">50<")) << textOf("framesMetrics").toStdString();
  choose("traceAxisBox", 0);
  prompts_.answer = QStringLiteral("the gate opens");
  press("momentNoteButton");
  const auto& note = std::get<core::NoteMade>(study_->session().recorded().events.back().act);
  EXPECT_EQ(note.text, "the gate opens");
  EXPECT_TRUE(note.moment.find('@') != std::string::npos);
}

// Whoever sees a pass's frames has seen its result.
TEST_F(Passes, AreShownFrameByFrameOnlyWhenTheSealIsBroken) {
  core::Study study = framed();
  study.plan.is_sealed = true;
  openStudy(study);
  const auto path = writeLog("ring pass_4800mts_1.csv", 500, 20).toStdString();
  const auto reading = session::readLog(path, study_->benches(), "bench");
  ASSERT_TRUE(study_->session().outside().importFrames(
      study_->session().open().ledger().pendingOf(0, core::ConfigurationId::Baseline).front(),
      session::framesOf(*reading, 0)));
  ASSERT_TRUE(study_->judgement().is_sealed);
  window_->goTo(core::Place::Passes);
  press("framesButton");
  EXPECT_FALSE(find<QCustomPlot>("tracePlot")->isVisible());
  EXPECT_TRUE(textOf("noFramesLabel").startsWith(QStringLiteral("Sealed"))) << textOf("noFramesLabel").toStdString();
}

// What a recorded frame tells of itself is drawn under its frame time, one point a frame; what was sampled beside it at
// the moments at which it was.
TEST_F(Passes, ShowWhatEachFrameTellsUnderItsTrace) {
  {
    auto file = store::StudyFile::create(prompts_.path->toStdString(), framed());
    core::Pass pass;
    pass.visit_id = file->addVisit({})->id;
    pass.value = 100;
    core::Samples samples{{0.5, 1},
                          {{"wait", "ms", core::ChannelRole::Frame, "frames", {}, {4, 4}},
                           {"chip", "°C", core::ChannelRole::Temperature, "chip", {}, {61, 62}}}};
    samples.by_frame = {{"wait", "ms", core::ChannelRole::Frame, "frames", {}, std::vector<double>(200, 4.5)}};
    ASSERT_TRUE(file->addPass(pass, std::vector<double>(200, 10), samples).ok());
  }
  open();
  trigger("openStudyAction");
  window_->goTo(core::Place::Passes);
  press("framesButton");
  choose("firstTraceBox", 0);
  auto* channels = find<QComboBox>("channelBox");
  ASSERT_EQ(channels->count(), 2) << "a channel is offered once";
  const auto points = [&](int channel) {
    choose("channelBox", channel);
    const QCPGraph* graph = find<QCustomPlot>("samplePlot")->graph(0);
    return graph == nullptr ? 0 : graph->dataCount();
  };
  EXPECT_EQ(points(channels->findText(QStringLiteral("wait, ms"))), 200);
  EXPECT_EQ(points(channels->findText(QStringLiteral("chip, °C"))), 2);
}

}  // namespace

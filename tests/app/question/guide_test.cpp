// The guide, followed to the letter: each of its steps is carried out in the real window, on a simulated machine.
#include <QClipboard>
#include <QComboBox>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QRegularExpression>
#include <QSpinBox>
#include <QTest>

#include "app/question/step_card.h"
#include "support/forwarding_bench.h"
#include "support/hands.h"
#include "support/window.h"

namespace {

/// A simulated machine as this one: its files are read, and what the probe would measure here is measured there.
class SimulatedMachine final : public support::ForwardingBench {
 public:
  explicit SimulatedMachine(const std::string& state) : ForwardingBench(state + "/machine"), state_(state) {}
  [[nodiscard]] std::unique_ptr<bench::RunningCommand> start(const bench::CommandOrder& order) override {
    bench::CommandOrder there = order;
    core::Command& command = there.exact.command;
    if (command.size() < 2 || command[0] != "iron-lever-probe") return ForwardingBench::start(there);
    const std::string what = command[1];
    if (what == "memory-test") command = {"true"};
    if (what == "copy" || what == "memory") command = {"iron-lever-simbench", "measure", "--state", state_, what};
    if (what == "draw" || what == "scene") {
      const bool is_shading = std::find(command.begin(), command.end(), "shading") != command.end();
      command = {"iron-lever-simbench", "run",   "--state",      state_,   "--case",
                 caseFor(is_shading),   "--out", command.back(), "--pace", "0"};
    }
    return ForwardingBench::start(there);
  }
  std::string case_of_draw = "Ring pass@4K dome";
  std::string case_of_shading = case_of_draw;

 private:
  [[nodiscard]] std::string caseFor(bool is_shading) const { return is_shading ? case_of_shading : case_of_draw; }
  std::string state_;
};

enum class By { Pointer, Keyboard, Reader };

class Guide : public support::WindowTest, public testing::WithParamInterface<By> {
 protected:
  /// What the programs of a bench say and do; empty where that went wrong.
  static bool run(const QString& program, const QStringList& arguments) {
    QProcess process;
    process.start(QCoreApplication::applicationDirPath() + QLatin1Char('/') + program, arguments);
    return process.waitForFinished() && process.exitCode() == 0;
  }
  void openOn(const char* truth) {
    QJsonObject machine =
        QJsonDocument::fromJson(
            QByteArray::fromStdString(support::contents(std::string(IRON_LEVER_SOURCE "/demo/") + truth)))
            .object();
    machine.remove(QStringLiteral("accidents"));  // of the demo alone
    folder_.write("truth.json", QJsonDocument(machine).toJson().toStdString());
    ASSERT_TRUE(run(QStringLiteral("iron-lever-simbench"),
                    {QStringLiteral("init"), QStringLiteral("--state"), state(), QStringLiteral("--truth"),
                     QString::fromStdString(folder_ / "truth.json")}));
    machine_ = std::make_unique<SimulatedMachine>(state().toStdString());
    study_ = std::make_unique<app::StudyModel>(*machine_, session::UserFiles::in(folder_ / "user"));
    window_ = std::make_unique<app::MainWindow>(*study_, prompts_, QString::fromStdString(folder_ / "demo"));
    window_->show();
    hands_ = GetParam() == By::Pointer    ? std::make_unique<support::Hands>()
             : GetParam() == By::Keyboard ? std::make_unique<support::KeyboardHands>()
                                          : std::unique_ptr<support::Hands>(new support::ReadersHands(*window_));
  }
  [[nodiscard]] QString state() const { return QString::fromStdString(folder_ / "bench"); }
  /// The numbered steps of a job, each in one line.
  static QStringList stepsOf(int job) {
    const QString page = QString::fromStdString(support::contents(IRON_LEVER_SOURCE "/docs/guide.md"));
    const QString text = page.section(QStringLiteral("\n## %1. ").arg(job), 1).section(QStringLiteral("\n## "), 0, 0);
    QStringList steps;
    for (const QString& line : text.split(QLatin1Char('\n'))) {
      if (QRegularExpression(QStringLiteral("^[0-9]+\\. ")).match(line).hasMatch())
        steps << line;
      else if (line.startsWith(QStringLiteral("   ")) && !steps.isEmpty())
        steps.last() += QLatin1Char(' ') + line.trimmed();
    }
    return steps;
  }
  void follow(int job) {
    const QStringList steps = stepsOf(job);
    ASSERT_GE(steps.size(), 5);
    for (const QString& step : steps) {
      SCOPED_TRACE(step.toStdString());
      carryOut(step);
      if (HasFatalFailure()) return;
    }
    EXPECT_EQ(window_->place(), core::Place::Findings);
    EXPECT_TRUE(study_->judgement().claim.has_result) << study_->judgement().claim.outcome;
  }
  void carryOut(const QString& step) {
    if (step.contains(QStringLiteral("Until the sheet is complete"))) return runTheSheet();
    if (step.contains(QStringLiteral("to approve**"))) shorten();
    if (step.contains(QStringLiteral("Type each result"))) return typeResults();
    static const QRegularExpression act(
        QStringLiteral("(press|choose|open|type)\\s+\\*\\*(.+?)\\*\\*(?:\\s+into\\s+\\*\\*(.+?)\\*\\*)?"),
        QRegularExpression::CaseInsensitiveOption);
    int done = 0;
    for (auto match = act.globalMatch(step); match.hasNext(); ++done) {
      const auto one = match.next();
      const QString verb = one.captured(1).toLower();
      const QString target = one.captured(2);
      QCoreApplication::processEvents();
      if (verb == QLatin1String("press")) pressText(target);
      if (verb == QLatin1String("choose")) chooseText(target);
      if (verb == QLatin1String("open")) openStep(target);
      if (verb == QLatin1String("type")) typeInto(target, one.captured(3));
      if (HasFatalFailure()) return;
    }
    EXPECT_GT(done, 0) << "a step that says nothing to do";
  }
  /// "…" in the guide stands for any text.
  void pressText(const QString& text) {
    const QString pattern =
        QRegularExpression::escape(text).replace(QRegularExpression::escape(QStringLiteral("…")), QStringLiteral(".*"));
    const QRegularExpression wanted(QRegularExpression::anchoredPattern(pattern));
    for (auto* button : window_->findChildren<QAbstractButton*>())
      if (button->isVisible() && button->isEnabled() &&
          (wanted.match(button->text()).hasMatch() || wanted.match(button->accessibleName()).hasMatch()))
        return hands_->press(*button);
    FAIL() << "no button says so: " << text.toStdString();
  }
  void chooseText(const QString& text) {
    for (auto* list : window_->findChildren<QListWidget*>())
      if (const auto rows = list->findItems(text, Qt::MatchExactly); list->isVisible() && rows.size() == 1)
        return hands_->choose(*list, list->row(rows[0]));
    for (auto* box : window_->findChildren<QComboBox*>())
      if (box->isVisible() && box->isEnabled() && box->findText(text) >= 0)
        return hands_->choose(*box, box->findText(text));
    for (auto* tree : window_->findChildren<QTreeWidget*>())
      if (const auto rows = tree->findItems(text, Qt::MatchExactly | Qt::MatchRecursive);
          tree->isVisible() && rows.size() == 1)
        return hands_->choose(*tree, *rows[0]);
    QStringList others;
    for (const auto* list : window_->findChildren<QListWidget*>())
      for (int row = 0; list->isVisible() && row < list->count(); ++row) others << list->item(row)->text();
    FAIL() << "nothing to choose is called so: " << text.toStdString() << "; in lists stand "
           << others.join(QStringLiteral(", ")).toStdString();
  }
  void openStep(const QString& question) {
    if (question == QStringLiteral("What do you change?")) {
      ASSERT_TRUE(support::waitUntil([this] { return find<QLabel>("benchNowLabel")->isHidden(); }));
    }
    for (auto* card : window_->findChildren<app::StepCard*>()) {
      const auto heads = card->findChildren<QLabel*>();
      if (std::none_of(heads.begin(), heads.end(), [&](const QLabel* one) { return one->text() == question; }))
        continue;
      if (!card->isOpen()) pressText(question);
      ASSERT_TRUE(card->isOpen());
      return;
    }
    FAIL() << "no step asks so: " << question.toStdString();
  }
  void typeInto(const QString& text, const QString& field) {
    for (auto* widget : window_->findChildren<QWidget*>())
      if (widget->isVisible() && widget->accessibleName() == field) return hands_->type(*widget, text);
    FAIL() << "no field is called so: " << field.toStdString();
  }
  /// As few rounds as have an interval: a person has an afternoon, a test has not.
  void shorten() {
    core::Study study = study_->study();
    study.plan.rounds = 3;
    study.plan.passes_per_visit = 1;
    study.plan.warm_ups = 0;
    study.plan.drawn = core::drawRoundsOf(study, study.plan, study.plan.rounds, study.plan.seed);
    study_->replaceStudy(study);
  }
  /// A person at the bench: brings the level about that the button names, then presses it.
  void runTheSheet() {
    static const QRegularExpression visit(QStringLiteral("visit [0-9]+, (.+)$"));
    for (int visits = 0; visits < 200 && study_->session().nextSlot(); ++visits) {
      const QString level = visit.match(nextText()).captured(1);
      ASSERT_TRUE(settings_.contains(level)) << nextText().toStdString();
      for (const QString& setting : settings_.at(level))
        ASSERT_TRUE(run(QStringLiteral("iron-lever-simbench"), {QStringLiteral("set"), QStringLiteral("--state"),
                                                                state(), setting, QStringLiteral("--reboot")}));
      trigger("nextAction");
      ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
    }
    ASSERT_FALSE(study_->session().nextSlot()) << nextText().toStdString();
  }
  void typeResults() {
    QStringList results;
    for (const core::Slot& slot : study_->session().open().schedule())
      results << QStringLiteral("%1").arg((slot.configuration == core::ConfigurationId::Baseline ? 60 : 72) +
                                          results.size() % 2);
    QGuiApplication::clipboard()->setText(results.join(QLatin1Char('\n')));
    QTest::keySequence(find<QTableView>("typedResults"), QKeySequence::Paste);
  }
  std::unique_ptr<support::Hands> hands_;
  std::unique_ptr<SimulatedMachine> machine_;
  std::map<QString, QStringList> settings_;  ///< of the simulated machine, by the level that the button names
};

QStringList words(const char* text) { return QString::fromUtf8(text).split(QLatin1Char(' ')); }

TEST_P(Guide, AnswersWhetherAFirmwareFeatureHelps) {
  openOn("dome_node_3_links.json");
  settings_ = {{QStringLiteral("off"), words("aperture=off")}, {QStringLiteral("on"), words("aperture=on")}};
  follow(1);
  EXPECT_EQ(study_->judgement().proof.levels->moved, core::Moved::Yes);
  EXPECT_EQ(study_->study().variable().levels[0].menu_path, "Advanced > Slots");
  EXPECT_GT(study_->judgement().findings.cases.at(0).change.value, 0);
}

TEST_P(Guide, AnswersHowMuchLinkIsEnough) {
  openOn("dome_node_3_links.json");
  for (const char* generation : {"1", "2", "3", "4"})
    settings_[QStringLiteral("Gen %1").arg(QLatin1String(generation))] = {
        QStringLiteral("link=gen%1").arg(QLatin1String(generation))};
  follow(2);
  EXPECT_EQ(study_->study().variable().levels.size(), 4U);
}

TEST_P(Guide, AnswersWhatFasterMemoryBrings) {
  openOn("dome_node_3.json");
  settings_ = {{QStringLiteral("4800 MT/s"), words("memory_speed=4800")},
               {QStringLiteral("6000 MT/s"), words("memory_speed=6000")}};
  machine_->case_of_shading = "Star sweep@2K dome";
  follow(3);
  EXPECT_EQ(study_->study().notice_threshold_percent, 3);
  EXPECT_TRUE(study_->study().cases.at(1).is_control);
}

TEST_P(Guide, AnswersWhereTheLossInAnExternalBoxGoes) {
  openOn("dome_node_3_links.json");
  settings_ = {{QStringLiteral("as it is"), words("lanes=x16 box=none screen=external")},
               {QStringLiteral("x4"), words("lanes=x4 box=none screen=external")},
               {QStringLiteral("Tarn dock"), words("lanes=x4 box=dock screen=external")},
               {QStringLiteral("built-in"), words("lanes=x4 box=dock screen=own")}};
  follow(4);
}

TEST_P(Guide, AnswersWhetherANewPartWasWorthIt) {
  openOn("dome_node_3.json");
  follow(5);
  EXPECT_TRUE(study_->study().plan.is_one_way);
}

INSTANTIATE_TEST_SUITE_P(By, Guide, testing::Values(By::Pointer, By::Keyboard, By::Reader), [](const auto& one) {
  return one.param == By::Pointer ? "Pointer" : one.param == By::Keyboard ? "Keyboard" : "Reader";
});

}  // namespace

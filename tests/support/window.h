#pragma once

#include <gtest/gtest.h>

#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTreeWidget>
#include <map>
#include <memory>
#include <optional>

#include "app/question/step_card.h"
#include "app/shell/main_window.h"
#include "bench/local_bench.h"
#include "support/run_session.h"
#include "support/test_folder.h"

namespace support {

/// Is something of the accent, in which what is measured is drawn, to be seen in it? A picture is never blank.
inline bool hasAccent(QWidget& widget) {
  const QImage picture = widget.grab().toImage();
  for (int y = 0; y < picture.height(); ++y)
    for (int x = 0; x < picture.width(); ++x) {
      const QColor at = picture.pixelColor(x, y);
      if (at.red() > at.blue() + 80 && at.red() > at.green() + 50) return true;
    }
  return false;
}

/// Answers what the window asks, as a test has laid it down.
class ScriptedPrompts final : public app::Prompts {
 public:
  [[nodiscard]] std::optional<QString> openStudyPath(QWidget*) override { return path; }
  [[nodiscard]] std::optional<QString> keptPath(QWidget*) override { return path; }
  [[nodiscard]] std::optional<QString> reason(QWidget*, const QString& what) override {
    asked << what;
    return answer;
  }
  [[nodiscard]] std::optional<QString> note(QWidget*) override { return answer; }
  [[nodiscard]] std::optional<std::map<QString, QString>> statedFacts(
      QWidget*, const std::map<QString, QString>& known) override {
    known_facts = known;
    return facts;
  }
  [[nodiscard]] std::optional<LevelReason> unreachable(QWidget*, const QStringList& levels, int suggested) override {
    asked << levels.value(suggested);
    return answer ? std::optional(LevelReason{suggested, *answer}) : std::nullopt;
  }
  [[nodiscard]] std::optional<QString> cause(QWidget*, const QString& what, const QStringList& causes) override {
    asked << what;
    return answer ? std::optional(causes.value(answer->toInt())) : std::nullopt;
  }
  [[nodiscard]] std::optional<LevelReason> tested(QWidget*, const QStringList&) override {
    return answer ? std::optional(LevelReason{1, *answer}) : std::nullopt;
  }
  [[nodiscard]] std::optional<Cause> explanation(QWidget*, const QString& case_title, const QStringList&) override {
    asked << case_title;
    return explained;
  }
  [[nodiscard]] std::optional<Expectation> prediction(QWidget*, const QString& who) override {
    return expected ? std::optional(Expectation{who, *expected}) : std::nullopt;
  }
  [[nodiscard]] std::optional<core::Study> heldEqual(QWidget*, const core::Study& study) override {
    core::Study chosen = study;
    chosen.held = held;
    return chosen;
  }
  std::vector<std::string> held;
  [[nodiscard]] std::optional<SecondPart> secondPart(QWidget*, const core::Study&) override {
    return second_part_answer;
  }
  std::optional<SecondPart> second_part_answer;
  [[nodiscard]] std::optional<core::Case> caseNature(QWidget*, const core::Case& a_case) override {
    asked << QString::fromStdString(a_case.title());
    return nature ? std::optional(nature(a_case)) : std::nullopt;
  }
  [[nodiscard]] std::optional<std::pair<QString, QString>> match(QWidget*, const QStringList&,
                                                                 const QStringList&) override {
    return match_answer;
  }
  std::optional<std::pair<QString, QString>> match_answer;
  [[nodiscard]] std::optional<QString> folder(QWidget*, const QString&) override { return path; }
  [[nodiscard]] std::optional<QString> savePath(QWidget*, const QString& name) override {
    asked << name;
    return save_path;
  }
  [[nodiscard]] QStringList logPaths(QWidget*) override { return logs; }
  [[nodiscard]] std::optional<QString> picturePath(QWidget*, const QString& of_what) override {
    asked << of_what;
    return picture;
  }
  /// Onto a file where one is to be printed on.
  [[nodiscard]] std::unique_ptr<QPrinter> printer(QWidget*) override {
    if (!save_path) return nullptr;
    auto made = std::make_unique<QPrinter>(QPrinter::HighResolution);
    made->setOutputFormat(QPrinter::PdfFormat);
    made->setOutputFileName(*save_path);
    return made;
  }
  void call(QWidget*, const QString& sentence) override { called << sentence; }
  void tell(QWidget*, const QString& sentence) override { told << sentence; }
  void inform(QWidget*, const QString& sentence) override { informed << sentence; }
  void read(QWidget*, const QString& title, const std::vector<Chapter>& chapters) override {
    told << title;
    for (const Chapter& one : chapters) told << one.heading + QStringLiteral(": ") + one.text;
  }

  std::optional<QString> path;
  std::optional<QString> answer;
  QStringList logs;
  std::optional<QString> picture;
  std::optional<QString> save_path;
  QStringList asked;
  QStringList told;
  QStringList informed;
  QStringList called;
  std::optional<double> expected;
  std::optional<Cause> explained;
  std::function<core::Case(core::Case)> nature;
  std::optional<std::map<QString, QString>> facts;
  std::map<QString, QString> known_facts;
};

/// The real window, driven by object name as a person would by eye.
class WindowTest : public testing::Test {
 protected:
  WindowTest() { prompts_.path = QString::fromStdString(folder_ / "study.ironlever"); }

  void open() {
    study_ = std::make_unique<app::StudyModel>(bench_, session::UserFiles::in(folder_ / "user"));
    window_ = std::make_unique<app::MainWindow>(*study_, prompts_, QString::fromStdString(folder_ / "demo"));
    window_->show();
  }
  void openStudy(const core::Study& study) {
    ASSERT_TRUE(store::StudyFile::create(prompts_.path->toStdString(), study).ok());
    open();
    trigger("openStudyAction");
  }
  /// The demo with something to find out: as the whole run of tests recorded it once, else recorded here.
  void openDemo() {
    const std::filesystem::path recorded(IRON_LEVER_RECORDED_DEMO);
    if (std::filesystem::exists(recorded))
      std::filesystem::copy(recorded, folder_ / "demo", std::filesystem::copy_options::recursive);
    open();
    trigger("demoAccidentAction");
    ASSERT_TRUE(waitUntil([this] { return study_->hasStudy() && !study_->session().isRunning(); }));
  }

  template <class Widget>
  [[nodiscard]] Widget* find(const char* name) const {
    auto* widget = window_->findChild<Widget*>(QLatin1String(name));
    EXPECT_NE(widget, nullptr) << name;
    return widget;
  }
  void press(const char* name) const {
    auto* button = find<QPushButton>(name);
    app::reveal(button);
    ASSERT_TRUE(button->isEnabled()) << name;
    button->click();
  }
  void trigger(const char* action) const { find<QAction>(action)->trigger(); }
  void type(const char* name, const QString& text) const {
    auto* edit = find<QLineEdit>(name);
    app::reveal(edit);
    ASSERT_TRUE(edit->isEnabled() && edit->isVisible()) << name;
    edit->setText(text);
    Q_EMIT edit->editingFinished();
  }
  /// A kind of variable; empty: none is declared.
  void chooseKind(const QString& id) const {
    auto* kinds = find<QTreeWidget>("kindList");
    app::reveal(kinds);
    for (QTreeWidgetItemIterator it(kinds); *it; ++it)
      if ((*it)->parent() && (*it)->data(0, Qt::UserRole).toString() == id) kinds->setCurrentItem(*it);
  }
  void choose(const char* name, int index) const {
    auto* box = find<QComboBox>(name);
    box->setCurrentIndex(index);
    Q_EMIT box->activated(index);
  }
  [[nodiscard]] QString textOf(const char* name) const { return asRead(find<QLabel>(name)->text()); }
  /// A space that does not break is a space.
  [[nodiscard]] static QString asRead(QString text) { return text.replace(QChar::Nbsp, QLatin1Char(' ')); }
  [[nodiscard]] QString nextText() const { return find<QPushButton>("nextActionButton")->text(); }

  TestFolder folder_;
  bench::LocalBench bench_;
  ScriptedPrompts prompts_;
  std::unique_ptr<app::StudyModel> study_;
  std::unique_ptr<app::MainWindow> window_;
};

}  // namespace support

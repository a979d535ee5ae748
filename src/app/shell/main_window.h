#pragma once

#include <QMainWindow>

#include "app/model/bench_view_model.h"
#include "app/model/cabinet_model.h"
#include "app/model/doubts_model.h"
#include "app/model/lever_model.h"
#include "app/model/logbook_model.h"
#include "app/model/next_action.h"
#include "app/model/pass_table_model.h"
#include "app/model/passes_view_model.h"
#include "app/model/run_sheet_view_model.h"
#include "app/model/study_model.h"
#include "app/model/typed_results_model.h"
#include "app/shell/keep_awake.h"
#include "app/shell/prompts.h"
#include "session/user/global_key.h"

class QStackedWidget;

namespace app {

class AtWorkModel;
class AtWorkWindow;
class BenchPage;
class BesideWindow;
class CabinetView;
class CabinetWindow;
class ClaimLine;
class DoubtsTray;
class BenchesWindow;
class HelpWindow;
class DeskWindow;
struct DeskCarry;
class LogbookWindow;
class FindingsPage;
class ReportPage;
class QuestionPage;
class PassesPage;
class PracticeModel;
class PracticeWindow;
class RunSheetPage;
class Track;

/// The window: claim line, next action, track and doubts tray around the place that is looked at.
class MainWindow final : public QMainWindow {
  Q_OBJECT
 public:
  /// Both outlive the window. `demo_folder` is where the demo study is made.
  MainWindow(StudyModel& study, Prompts& prompts, QString demo_folder, QWidget* parent = nullptr);
  ~MainWindow() override;
  /// Shows one of session::demoStudies, by its id: its sheet while it runs, then its findings.
  void openDemo(const QString& id = QStringLiteral("memory-speed"));

  void goTo(core::Place place);
  /// Comes back where it was when it was last closed, and remembers that from now on.
  void restorePlace();
  /// The passes, frame by frame.
  void showFrames();
  /// What the levels used, on the findings page.
  void showUsed();
  /// Sums for planning.
  void openDesk();
  void tellDesk();
  void carryFromDesk(const DeskCarry& what);
  /// Several benches at once.
  AtWorkWindow& openAtWork();
  /// Benches with a hidden truth.
  void openPractice();
  /// The studies on the disks.
  void openCabinet();
  /// Several studies, side by side: of a NAME.beside.json.
  void openBeside(const QString& path);
  /// Opens one of the question's steps, 1 to 5.
  void showStep(int number);
  [[nodiscard]] core::Place place() const { return place_; }

 public Q_SLOTS:
  void pressNext();
  void toggleNight();

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  /// A study is opened; logs are brought into the one that is open.
  void dropEvent(QDropEvent* event) override;

 private:
  friend class WindowActions;  // the table of actions, in a file of its own
  void showPage(const QWidget* page);
  void buildLayout();
  void connectParts();
  void connectResults();
  void refresh();
  void refreshTrack();
  [[nodiscard]] QString benchProgress() const;
  void showDoubt(core::Place place, int case_index, const QString& doubt_id);
  void acceptDoubt(const QString& id, const QString& sentence);
  void openPart(const QString& part);
  void newStudy(bool copies_current);
  void newNullStudy();
  void keepElsewhere();
  void openStudy();
  void buildCabinet();
  void connectCabinet(CabinetView& view);
  void repeatStudy(const QString& path);
  [[nodiscard]] BesideWindow& newBesideWindow();
  void layBeside(const QStringList& paths);
  void followDemo();
  void fillRecentStudies();
  void keepPlace() const;
  void printReport();
  void openLogbook();
  void addNote();
  void addObservation();
  [[nodiscard]] std::string chartSvg() const;
  void copyChart();
  void saveChart();
  /// Of no files it asks for some.
  void importLogs(const QStringList& dropped);
  void showPrinted(qint64 pass_id, const QString& of_what);
  void askStatedFacts();
  void askUnreachable();
  void openEarly();
  void openBenches();
  void startThere();
  /// A page of the manual, at a heading where one is named.
  void openHelp(const QString& page, const QString& heading = {});
  void askPrediction();
  void askSkip();
  void askMeasureAnyway();
  void askRepeatVisit();
  void extendPlan();
  void askRound();
  void askSecondPart();
  void askTakenLevel();
  void openSearch();
  void savePaperSheet();
  void keepPicture(int visit);
  void newConfirmation();
  void askNextQuestion();
  void askTested();
  void askSecondFolder();
  /// Calls a person where the sheet cannot go on without one.
  void callWhereNeeded();
  /// Hears the player's key while somebody plays, or is about to.
  void hearPlayersKey();
  void typeResults();
  void saveReport(const QString& suggested_name);
  [[nodiscard]] bool hasChart() const;

  StudyModel& study_;
  Prompts& prompts_;
  KeepAwake keep_awake_;
  session::GlobalKey players_key_;
  QString demo_folder_;
  QString shown_demo_;  ///< the one that runs because a person opened it to see it; empty without
  DoubtsModel doubts_;
  LeverModel levers_;
  RunSheetViewModel sheet_;
  PassTableModel passes_;
  PassesViewModel pass_views_;
  TypedResultsModel typed_results_;
  BenchViewModel bench_;
  LogbookModel logbook_;
  CabinetModel* cabinet_ = nullptr;
  QMenu* recent_ = nullptr;
  bool keeps_place_ = false;
  bool was_running_ = false;  ///< when the window last looked
  core::Place place_ = core::Place::Question;
  ClaimLine* claim_ = nullptr;
  Track* track_ = nullptr;
  DoubtsTray* tray_ = nullptr;
  QStackedWidget* pages_ = nullptr;
  QWidget* welcome_ = nullptr;
  QuestionPage* question_ = nullptr;
  BenchPage* bench_page_ = nullptr;
  RunSheetPage* run_sheet_ = nullptr;
  PassesPage* passes_page_ = nullptr;
  FindingsPage* findings_ = nullptr;
  ReportPage* report_page_ = nullptr;
  DeskWindow* desk_window_ = nullptr;
  LogbookWindow* logbook_window_ = nullptr;    ///< made when it is first asked for
  AtWorkModel* at_work_ = nullptr;             ///< the same
  AtWorkWindow* at_work_window_ = nullptr;     ///< the same
  PracticeModel* practice_ = nullptr;          ///< the same
  PracticeWindow* practice_window_ = nullptr;  ///< the same
  BenchesWindow* benches_window_ = nullptr;    ///< the same
  CabinetWindow* cabinet_window_ = nullptr;    ///< the same
  HelpWindow* help_window_ = nullptr;
};

}  // namespace app

#pragma once

#include <QWidget>
#include <string>

#include "app/model/study_model.h"
#include "app/report/report_pictures.h"
#include "session/bundle/bundle.h"
#include "session/pages/written_report.h"
#include "session/user/background.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPagedPaintDevice;
class QPushButton;
class QTextBrowser;

namespace app {

class PartsDialog;

/// Place 6: the report as it would be sent, and its way out as a page or as PDF.
class ReportPage final : public QWidget {
  Q_OBJECT
 public:
  explicit ReportPage(StudyModel& study, QWidget* parent = nullptr);
  void restyle();
  /// Writes it by the name's ending, see session::writeReport, writePrinted and sealBundle. Tells by StudyModel::failed
  /// where it cannot.
  void save(const QString& path);
  /// The page as it is saved as PDF.
  void print(QPagedPaintDevice& paper);

 Q_SIGNALS:
  void printRequested();
  void saveRequested(const QString& suggested_name);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void dress();
  void layOut(QLabel* title);
  void connectParts();
  void fillTemplates(const QString& chosen);
  void editParts();
  void takeParts(const PartsDialog& dialog);
  void ask(session::ReportWish::Form form, const QString& suggested_name);
  [[nodiscard]] session::ReportWish wish() const;
  void refresh();
  void seal(const std::string& path);
  void tellSealed(const QString& path, const core::Result<session::SealedBundle>& sealed);
  core::Status withSource(const std::function<core::Status(const report::Source&)>& act) const;
  [[nodiscard]] core::Result<std::string> page(const report::Palette& palette, const report::Charts& charts = {}) const;

  StudyModel& study_;
  ReportPictures pictures_;  ///< of the page that is shown
  std::string shown_;
  QLabel* why_not_;
  QTextBrowser* view_;
  report::PageOrder order_ = report::fullOrder();
  session::ReportWish::Form form_ = session::ReportWish::Form::Page;  ///< what is being saved
  QComboBox* template_;
  QPushButton* more_;
  QCheckBox* names_people_;
  QCheckBox* has_pictures_;
  QPushButton* html_;
  QPushButton* pdf_;
  QPushButton* print_;
  QPushButton* seal_;
  QLabel* sealed_;
  session::Background sealing_;  ///< it works every number out once more
};

}  // namespace app

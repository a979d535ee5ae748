#pragma once

#include <QDialog>
#include <QTimer>

#include "app/model/import_model.h"

class QVBoxLayout;
class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QProgressBar;
class QPushButton;
class QTableView;

namespace app {

/// Logs from elsewhere: where each goes, how it was read, its first rows and the average that comes of it, to be
/// confirmed or corrected before anything is filed.
class ImportDialog final : public QDialog {
  Q_OBJECT
 public:
  ImportDialog(StudyModel& study, const QStringList& paths, QWidget* parent = nullptr);

 private:
  void build();
  void buildTable(QVBoxLayout* column);
  void buildCorrections(QVBoxLayout* column);
  void connectParts();
  void step();
  void rest();
  void showRow();
  void correct();
  void placeRow();
  void showState();

  StudyModel& study_;
  ImportModel model_;
  QTimer work_;
  bool is_filing_ = false;
  bool is_showing_ = false;
  QLineEdit* pattern_ = nullptr;
  QTableView* table_ = nullptr;
  QComboBox* case_ = nullptr;
  QComboBox* level_ = nullptr;
  QComboBox* column_ = nullptr;
  QComboBox* meaning_ = nullptr;
  QComboBox* unit_ = nullptr;
  QLabel* said_ = nullptr;
  QPlainTextEdit* first_rows_ = nullptr;
  QProgressBar* progress_ = nullptr;
  QPushButton* import_ = nullptr;
  QPushButton* stop_ = nullptr;
};

}  // namespace app

#pragma once

#include <QWidget>

#include "app/model/typed_results_model.h"

class QLabel;
class QPushButton;
class QTableView;

namespace app {

/// Results that people type: a grid that needs no mouse. Enter goes on to the next one, a column pasted from a
/// spreadsheet fills the rows below.
class TypingView final : public QWidget {
  Q_OBJECT
 public:
  explicit TypingView(TypedResultsModel& results, QWidget* parent = nullptr);
  /// Puts the cursor where the next result belongs.
  void begin();

 Q_SIGNALS:
  void proofRequested(qint64 pass_id, const QString& what);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void connectParts(QPushButton* proof);
  void paste();
  void askForDecimals();
  void goOnFrom(int row);
  void goTo(const QModelIndex& next);

  TypedResultsModel& results_;
  QTableView* table_;
  QLabel* said_;
  QWidget* ask_ = nullptr;  ///< what "4,780" means, where it has to be asked
  QPushButton* thousands_ = nullptr;
  QPushButton* decimals_ = nullptr;
};

}  // namespace app

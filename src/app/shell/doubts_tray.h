#pragma once

#include <QFrame>
#include <QStyledItemDelegate>

#include "app/model/doubts_model.h"

class QLabel;
class QListView;
class QPushButton;

namespace app {

/// Draws a doubt: its rank by shape and word, the sentence, what to do about it.
class DoubtDelegate final : public QStyledItemDelegate {
  Q_OBJECT
 public:
  using QStyledItemDelegate::QStyledItemDelegate;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
};

/// Everything that could make the claim wrong: one line high, opens upward.
class DoubtsTray final : public QFrame {
  Q_OBJECT
 public:
  DoubtsTray(DoubtsModel& doubts, QWidget* parent = nullptr);
  [[nodiscard]] bool isOpen() const;
  void setOpen(bool is_open);
  void refresh();

 protected:
  void resizeEvent(QResizeEvent* event) override;

 Q_SIGNALS:
  void showRequested(core::Place place, int case_index, const QString& doubt_id);
  void acceptRequested(const QString& doubt_id, const QString& sentence);
  /// The act that mends the doubt, by the name of its menu entry.
  void actRequested(const QString& act);
  /// A person wants to know what a doubt of this kind means.
  void meaningRequested(const QString& kind);

 private:
  [[nodiscard]] QModelIndex chosen() const;
  void refreshActs();
  void showHeadline();
  DoubtsModel& doubts_;
  QListView* list_;
  QPushButton* counts_;
  QLabel* headline_;
  QPushButton* explain_;
  QPushButton* show_;
  QPushButton* mend_;
  QPushButton* accept_;
};

}  // namespace app

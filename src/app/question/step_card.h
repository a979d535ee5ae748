#pragma once

#include <QFrame>

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace app {

/// One step of the question. Closed, it is a sentence that says what was chosen; open, the fields that choose it.
class StepCard final : public QFrame {
  Q_OBJECT
 public:
  /// `number` from 1; also names the card: "step3Card", and its button: "step3Button".
  StepCard(int number, const QString& question, QWidget* parent = nullptr);
  /// Where its fields go.
  [[nodiscard]] QVBoxLayout* body() const { return body_; }
  void setAnswer(const QString& sentence);
  void setOpen(bool is_open);
  [[nodiscard]] bool isOpen() const { return is_open_; }
  /// What its button says: a step that is locked can still be looked at.
  void setCanEdit(bool can_edit);

 Q_SIGNALS:
  /// A person wants to see its fields.
  void openRequested();

 protected:
  void mousePressEvent(QMouseEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void showAnswer();
  QString sentence_;
  QLabel* answer_;
  QPushButton* change_;
  QWidget* fields_;
  QVBoxLayout* body_;
  bool is_open_ = false;
};

/// Fields that most people never need, behind one button with their name.
class Fold final : public QWidget {
  Q_OBJECT
 public:
  /// `name`: of its button, and begins that of the fold: "planFold" has "planFoldButton".
  Fold(const QString& title, const QString& name, QWidget* parent = nullptr);
  [[nodiscard]] QVBoxLayout* body() const { return body_; }
  void setOpen(bool is_open);
  [[nodiscard]] bool isOpen() const;

 private:
  QPushButton* button_;
  QWidget* fields_;
  QVBoxLayout* body_;
};

/// Opens every card and fold that a widget stands in, so that a person sees it.
void reveal(QWidget* widget);

}  // namespace app

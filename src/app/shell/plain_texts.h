#pragma once

#include <QObject>

namespace app {

/// Shows every label and tooltip as the text that it is: a name that looks like markup is a name, and no picture is
/// loaded because a study says so. Labels whose markup is ours say so themselves (Qt::RichText).
class PlainTexts final : public QObject {
  Q_OBJECT
 public:
  /// For the whole application, once.
  static void install();
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  using QObject::QObject;
};

}  // namespace app

#pragma once

#include <QStringList>
#include <QWidget>

class QVBoxLayout;

namespace app {

/// Points that a person ticks before a visit, each with its box.
class ChecklistBox final : public QWidget {
  Q_OBJECT
 public:
  explicit ChecklistBox(QWidget* parent = nullptr);
  /// Shows these, of which `ticked` are done; nothing where there are none.
  void show(const QStringList& points, const QStringList& ticked);

 Q_SIGNALS:
  void ticked(const QString& point, bool is_done);

 private:
  void rebuild(const QStringList& points);
  QVBoxLayout* column_;
  QStringList points_;
};

}  // namespace app

#pragma once

#include <QDialog>
#include <QTextBrowser>

namespace app {

/// Shows a page of the manual that ships with the program: its pictures as wide as the window, and of a link with a
/// fragment the heading that it names.
class HelpBrowser final : public QTextBrowser {
  Q_OBJECT
 public:
  explicit HelpBrowser(QWidget* parent = nullptr);
  /// Where a heading that makes this fragment begins; -1 where there is none.
  [[nodiscard]] int placeOf(const QString& fragment) const;

 protected:
  QVariant loadResource(int type, const QUrl& name) override;
  void doSetSource(const QUrl& name, QTextDocument::ResourceType type) override;
  void resizeEvent(QResizeEvent* event) override;
};

/// The manual beside the window: it stops nothing while it is open.
class HelpWindow final : public QDialog {
  Q_OBJECT
 public:
  explicit HelpWindow(QWidget* parent = nullptr);
  /// `page` among docs/help, `heading` as it stands there; empty: its begin.
  void showPage(const QString& page, const QString& heading = {});

 private:
  HelpBrowser* browser_;
};

/// What follows the # in a link to a heading: small letters and digits, a hyphen for each blank.
[[nodiscard]] QString fragmentOf(const QString& heading);

}  // namespace app

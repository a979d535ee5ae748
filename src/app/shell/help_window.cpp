#include "app/shell/help_window.h"

#include <QAbstractTextDocumentLayout>
#include <QImage>
#include <QPushButton>
#include <QScrollBar>
#include <QTextBlock>
#include <QVBoxLayout>
#include <algorithm>

#include "app/shell/usable.h"

static void initHelpResources() { Q_INIT_RESOURCE(help); }

namespace app {

QString fragmentOf(const QString& heading) {
  QString fragment;
  for (const QChar letter : heading.toLower())
    if (letter.isLetterOrNumber() || letter == QLatin1Char('_') || letter == QLatin1Char('-'))
      fragment += letter;
    else if (letter == QLatin1Char(' '))
      fragment += QLatin1Char('-');
  return fragment;
}

HelpBrowser::HelpBrowser(QWidget* parent) : QTextBrowser(parent) {
  setObjectName(QStringLiteral("helpBrowser"));
  setAccessibleName(tr("A page of the manual"));
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);  // so that a picture knows its room before it is laid out
}

int HelpBrowser::placeOf(const QString& fragment) const {
  for (QTextBlock block = document()->begin(); block.isValid(); block = block.next())
    if (block.blockFormat().headingLevel() > 0 && fragmentOf(block.text()) == fragment)
      return static_cast<int>(document()->documentLayout()->blockBoundingRect(block).top());
  return -1;
}

QVariant HelpBrowser::loadResource(int type, const QUrl& name) {
  const QVariant found = QTextBrowser::loadResource(type, name);
  if (type != QTextDocument::ImageResource) return found;
  const QImage whole = QImage::fromData(found.toByteArray());
  const int width = viewport()->width() - 2 * static_cast<int>(document()->documentMargin());
  return whole.isNull() ? found : QVariant(whole.scaledToWidth(std::max(1, width), Qt::SmoothTransformation));
}

void HelpBrowser::doSetSource(const QUrl& name, QTextDocument::ResourceType type) {
  QTextBrowser::doSetSource(name, type);
  if (const int top = name.fragment().isEmpty() ? -1 : placeOf(name.fragment()); top >= 0)
    verticalScrollBar()->setValue(top);
}

// Pictures are taken anew, as wide as there is room.
void HelpBrowser::resizeEvent(QResizeEvent* event) {
  QTextBrowser::resizeEvent(event);
  const QUrl there = source();
  const int at = verticalScrollBar()->value();
  if (there.isEmpty()) return;
  reload();
  verticalScrollBar()->setValue(at);
}

HelpWindow::HelpWindow(QWidget* parent) : QDialog(parent), browser_(new HelpBrowser(this)) {
  initHelpResources();
  setObjectName(QStringLiteral("helpWindow"));
  setWindowTitle(tr("Help"));
  resize(760, 640);
  auto* back = new QPushButton(tr("Back"), this);
  back->setObjectName(QStringLiteral("helpBackButton"));
  const auto enable = [back](bool can_go_back) {
    setUsable(*back, can_go_back ? QString() : tr("This is the first page that you opened"));
  };
  enable(false);
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(browser_);
  layout->addWidget(back, 0, Qt::AlignLeft);
  connect(back, &QPushButton::clicked, browser_, &QTextBrowser::backward);
  connect(browser_, &QTextBrowser::backwardAvailable, back, enable);
}

void HelpWindow::showPage(const QString& page, const QString& heading) {
  show();  // it has its size then, and pictures theirs
  raise();
  QUrl url(QStringLiteral("qrc:/docs/help/%1.md").arg(page));
  url.setFragment(fragmentOf(heading));
  browser_->setSource(url);
}

}  // namespace app

#include "app/shell/claim_line.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

// What a part asks for while it is empty.
QString placeholderOf(const QString& part) {
  if (part == QLatin1String("bench")) return ClaimLine::tr("which bench?");
  if (part == QLatin1String("variable") || part == QLatin1String("other")) return ClaimLine::tr("which variable?");
  if (part == QLatin1String("metric")) return ClaimLine::tr("what?");
  if (part == QLatin1String("cases")) return ClaimLine::tr("which cases?");
  return ClaimLine::tr("which level?");
}

}  // namespace

ClaimLine::ClaimLine(const StudyModel& study, QWidget* parent)
    : QFrame(parent), study_(study), sentence_(new QLabel(this)), next_(new QPushButton(this)) {
  setObjectName(QStringLiteral("claimLine"));
  setAutoFillBackground(true);
  setFixedHeight(66);
  sentence_->setObjectName(QStringLiteral("claimSentence"));
  sentence_->setWordWrap(true);
  sentence_->setTextFormat(Qt::RichText);
  sentence_->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
  sentence_->setFont(textFont(TextSize::Large));
  next_->setObjectName(QStringLiteral("nextActionButton"));
  next_->setMinimumWidth(220);
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(18, 8, 16, 8);
  layout->addWidget(sentence_, 1);
  layout->addSpacing(20);
  layout->addWidget(next_);
  connect(sentence_, &QLabel::linkActivated, this, &ClaimLine::partClicked);
  connect(next_, &QPushButton::clicked, this, &ClaimLine::nextPressed);
}

QString ClaimLine::sentence() const {
  if (!study_.hasStudy())
    return tr("What does one platform setting change, by how many percent, and how sure is that?");
  const core::Claim& claim = study_.judgement().claim;
  const auto link = [](const char* part, const std::string& text, const QString& empty) {
    return QStringLiteral("<a href='%1' style='color:%2; font-weight:bold;'>%3</a>")
        .arg(QLatin1String(part), theme().changed.name(), text.empty() ? empty : toQt(text).toHtmlEscaped());
  };
  QString outcome = toQt(claim.outcome).toHtmlEscaped();
  if (claim.has_result) outcome.replace(QLatin1Char(' '), QStringLiteral("&nbsp;"));
  const QColor& ink = claim.is_stopped ? theme().soft_ink : theme().ink;
  const QString end = QStringLiteral("<span style='color:%1; font-weight:bold;'>%2</span>").arg(ink.name(), outcome) +
                      boundPercents(toQt(claim.ending())).toHtmlEscaped();
  QString sentence;
  for (const core::ClaimPart& part : claim.parts())
    sentence += *part.names == '\0' ? toQt(part.text).toHtmlEscaped()
                                    : link(part.names, part.text, placeholderOf(QLatin1String(part.names)));
  return sentence + end;
}

void ClaimLine::refresh(const NextAction& action) {
  setStyleSheet(QStringLiteral("#claimLine { background: %1; border-bottom: 1px solid %2; }")
                    .arg(theme().sheet.name(), theme().line.name()));
  sentence_->setText(sentence());
  // Two lines at most, whatever the names: a long claim is set smaller before it is cut.
  QFont font = textFont(TextSize::Large);
  const QString plain = study_.hasStudy() ? toQt(study_.judgement().claim.sentence()) : QString();
  const double lines =
      QFontMetrics(font).horizontalAdvance(plain) / std::max(200.0, static_cast<double>(width() - 290));
  if (lines > 1.8) font = textFont(TextSize::Normal);
  sentence_->setFont(font);
  sentence_->setToolTip(study_.hasStudy() ? toQt(study_.judgement().claim.safety) : QString());
  next_->setText(action.text);
  next_->setToolTip(action.hint);
  setUsable(*next_, action.is_enabled ? QString() : action.hint);
  next_->setAccessibleDescription(action.hint);
}

}  // namespace app

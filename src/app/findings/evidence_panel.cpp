#include "app/findings/evidence_panel.h"

#include <QLabel>
#include <QVBoxLayout>

#include "app/shell/distribution_plot.h"
#include "app/shell/plot_style.h"
#include "app/shell/theme.h"

namespace app {
namespace {

const QString kFrames = QStringLiteral("frames");
const QString kVerdict = QStringLiteral("verdict:");

QString paragraph(const QString& text, const QString& style) {
  return QStringLiteral("<p style='%1'>%2</p>").arg(style, boundPercents(text).toHtmlEscaped());
}

QString tableHtml(const Evidence::Table& table) {
  const Theme& t = theme();
  const auto colour = [&](qsizetype column, bool is_head) {
    if (table.is_by_level && column == 1 && is_head) return t.baseline;
    if (table.is_by_level && column == 2) return t.changed;
    return column == 0 || is_head ? t.soft_ink : t.ink;
  };
  const auto row = [&](const QStringList& cells, bool is_head) {
    QString html = QStringLiteral("<tr>");
    for (qsizetype i = 0; i < cells.size(); ++i)
      html += QStringLiteral("<td align='%1' style='padding-left:%2px; %3 color:%4'>%5</td>")
                  .arg(i == 0 ? QStringLiteral("left") : QStringLiteral("right"))
                  .arg(i == 0 ? 0 : 8)
                  .arg(i == 0 ? QString() : QStringLiteral("white-space:nowrap;"), colour(i, is_head).name(),
                       boundPercents(cells[i]).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")));
    return html + QStringLiteral("</tr>");
  };
  QString html = QStringLiteral("<table cellspacing='0' cellpadding='2' width='100%' style='font-size:8.5pt'>");
  html += row(table.columns, true);
  for (const QStringList& cells : table.rows) html += row(cells, false);
  return html + QStringLiteral("</table>");
}

QString remarksHtml(const QStringList& remarks) {
  QString html;
  for (const QString& remark : remarks) html += paragraph(remark, QStringLiteral("margin:6px 0 0 0"));
  return html;
}

}  // namespace

EvidencePanel::EvidencePanel(const StudyModel& study, const UsedModel& used, QWidget* parent)
    : QScrollArea(parent),
      study_(study),
      used_(used),
      frames_(study),
      text_(new QLabel(this)),
      distribution_(new DistributionPlot("evidenceDistribution", this)) {
  setObjectName(QStringLiteral("evidencePanel"));
  text_->setObjectName(QStringLiteral("evidenceLabel"));
  text_->setWordWrap(true);
  text_->setTextFormat(Qt::RichText);
  text_->setAlignment(Qt::AlignTop);
  text_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard | Qt::LinksAccessibleByMouse |
                                 Qt::LinksAccessibleByKeyboard);
  connect(text_, &QLabel::linkActivated, this, &EvidencePanel::toggle);
  auto* body = new QWidget(this);
  auto* column = new QVBoxLayout(body);
  column->setContentsMargins(14, 14, 12, 12);
  column->addWidget(text_);
  column->addWidget(distribution_);
  column->addStretch(1);
  distribution_->setFixedHeight(150);
  setWidget(body);
  setWidgetResizable(true);
  setFixedWidth(372);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

void EvidencePanel::showCase(std::optional<std::size_t> case_index) {
  case_index_ = case_index;
  refresh();
}

QString EvidencePanel::heading(const QString& id, const QString& title, const QString& brief) const {
  const Theme& t = theme();
  QString html = QStringLiteral(
                     "<p style='margin:0; font-size:5pt'>&nbsp;</p><p style='margin:2px 0 2px 0'><a href='%1' "
                     "style='color:%2; text-decoration:none'>%3 <b>%4</b></a>")
                     .arg(id, t.ink.name(), unfolded_.contains(id) ? QStringLiteral("▾") : QStringLiteral("▸"),
                          title.toHtmlEscaped());
  if (!brief.isEmpty() && !unfolded_.contains(id))
    html += QStringLiteral("<span style='color:%1'> · %2</span>")
                .arg(t.soft_ink.name(), boundPercents(brief).toHtmlEscaped());
  return html + QStringLiteral("</p>");
}

void EvidencePanel::showEvent(QShowEvent* event) {
  QScrollArea::showEvent(event);
  if (study_.hasStudy()) refresh();
}

void EvidencePanel::refresh() {
  // Worked out where it is seen: passes come all the time.
  static const std::vector<core::Used> kNone;
  const Evidence evidence =
      evidenceOf(study_.study(), study_.judgement(), case_index_, isVisible() ? used_.all() : kNone);
  QString html = paragraph(evidence.title, QStringLiteral("font-size:13pt; font-weight:bold; margin:0"));
  html += paragraph(evidence.subtitle, QStringLiteral("margin:2px 0 0 0; color:%1").arg(theme().soft_ink.name()));
  if (!evidence.sentence.isEmpty())
    html += paragraph(evidence.sentence, QStringLiteral("font-size:11pt; font-weight:bold; margin:10px 0 6px 0"));
  if (!evidence.verdict.isEmpty())
    html += QStringLiteral("<p style='margin:0 0 6px 0'><a href='%1%2' style='color:%3'>%4</a></p>")
                .arg(kVerdict, evidence.verdict, theme().focus.name(), tr("What “%1” means").arg(evidence.verdict));
  if (!evidence.table.rows.empty()) html += tableHtml(evidence.table);
  html += remarksHtml(evidence.remarks);
  for (const Evidence::Part& part : evidence.parts) {
    html += heading(part.id, part.title, part.brief);
    if (!unfolded_.contains(part.id)) continue;
    if (!part.table.rows.empty()) html += tableHtml(part.table);
    html += remarksHtml(part.remarks);
  }
  if (hasFrames()) html += heading(kFrames, tr("Frame times at both levels"), {});
  text_->setText(html);
  showDistribution();
}

bool EvidencePanel::hasFrames() const {
  return case_index_ && study_.judgement().findings.cases[*case_index_].fewest_frames.has_value();
}

// Read from the study file only where somebody looks.
void EvidencePanel::showDistribution() {
  const bool is_wanted = hasFrames() && unfolded_.contains(kFrames);
  distribution_->setVisible(is_wanted);
  if (!is_wanted) return;
  const auto pooled = [&](core::ConfigurationId configuration) {
    std::vector<double> all;
    for (const std::vector<double>& frames : frames_.levelFrames(*case_index_, configuration))
      all.insert(all.end(), frames.begin(), frames.end());
    return all;
  };
  stylePlot(*distribution_);
  distribution_->showFrames(pooled(study_.judgement().pair.from), pooled(study_.judgement().pair.to));
}

void EvidencePanel::toggle(const QString& link) {
  if (link.startsWith(kVerdict)) return void(Q_EMIT meaningRequested(link.mid(kVerdict.size())));
  if (!unfolded_.remove(link)) unfolded_.insert(link);
  refresh();
}

void EvidencePanel::restyle() {
  setStyleSheet(QStringLiteral("#evidencePanel { background: %1; border: none; border-left: 1px solid %2; } "
                               "#evidencePanel > QWidget > QWidget { background: %1; }")
                    .arg(theme().sheet.name(), theme().line.name()));
}

}  // namespace app

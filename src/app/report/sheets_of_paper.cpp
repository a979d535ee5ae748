#include "app/report/sheets_of_paper.h"

#include <QAbstractTextDocumentLayout>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextTable>

namespace app {
namespace {

// Where something lies in the document, whose sheets follow one another.
struct Extent {
  double top = 0;
  double bottom = 0;
};

class Sheets {
 public:
  explicit Sheets(QTextDocument& document) : document_(document) {}

  void breakWell() {
    for (QTextBlock block = document_.begin(); block.isValid(); block = block.next()) {
      if (block.blockFormat().headingLevel() > 0) keepWithWhatFollows(block);
      QTextTable* table = QTextCursor(block).currentTable();
      if (table == nullptr) continue;
      const QTextTableCell cell = table->cellAt(block.position());
      if (cell.column() == 0 && cell.firstPosition() == block.position()) keepWhole(*table, cell.row());
    }
  }

 private:
  [[nodiscard]] Extent extentOf(const QTextBlock& block) const {
    const QRectF at = document_.documentLayout()->blockBoundingRect(block);
    return {at.top(), at.bottom()};
  }
  [[nodiscard]] Extent extentOf(const QTextTable& table, int row) const {
    Extent all = extentOf(table.cellAt(row, 0).firstCursorPosition().block());
    for (int column = 0; column < table.columns(); ++column) {
      const Extent last = extentOf(table.cellAt(row, column).lastCursorPosition().block());
      all.bottom = std::max(all.bottom, last.bottom);
    }
    return all;
  }
  [[nodiscard]] int sheetOf(double at) const { return static_cast<int>(at / document_.pageSize().height()); }
  [[nodiscard]] bool isTorn(const Extent& extent) const { return sheetOf(extent.top) != sheetOf(extent.bottom - 1); }

  void keepWithWhatFollows(const QTextBlock& heading) {
    const QTextBlock next = heading.next();
    if (!next.isValid()) return;
    const QTextTable* table = QTextCursor(next).currentTable();
    const double until = table != nullptr ? headOf(*table).bottom : extentOf(next).top + 1;
    if (!isTorn({extentOf(heading).top, until})) return;
    QTextBlockFormat breaking;
    breaking.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
    QTextCursor(heading).mergeBlockFormat(breaking);
    layAnew();
  }

  // The head of a table, with the first row that it is the head of.
  [[nodiscard]] Extent headOf(const QTextTable& table) const {
    const int first = std::min(table.format().headerRowCount(), table.rows() - 1);
    return {extentOf(table, 0).top, extentOf(table, first).bottom};
  }

  void keepWhole(QTextTable& table, int row) {
    const int heads = table.format().headerRowCount();
    if (row < heads) {
      if (row > 0 || !isTorn(headOf(table))) return;
      QTextTableFormat format = table.format();
      format.setPageBreakPolicy(QTextFormat::PageBreak_AlwaysBefore);
      table.setFormat(format);
      layAnew();
      return;
    }
    const Extent torn = extentOf(table, row);
    if (!isTorn(torn)) return;
    // A row has no break of its own: what is missing to the foot of the sheet stands above it.
    const double missing = (sheetOf(torn.top) + 1) * document_.pageSize().height() - torn.top;
    for (int column = 0; column < table.columns(); ++column) {
      QTextTableCell cell = table.cellAt(row, column);
      QTextTableCellFormat format = cell.format().toTableCellFormat();
      format.setTopPadding(format.topPadding() + missing);
      cell.setFormat(format);
    }
    layAnew();
  }

  // A layout that goes on from the change alone loses count of its sheets: the last are not printed then.
  void layAnew() { document_.markContentsDirty(0, document_.characterCount()); }

  QTextDocument& document_;
};

}  // namespace

void breakBetweenSheets(QTextDocument& document) { Sheets(document).breakWell(); }

}  // namespace app

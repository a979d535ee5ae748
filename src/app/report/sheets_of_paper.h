#pragma once

class QTextDocument;

namespace app {

/// Puts page breaks where a reader expects them: a heading, or the head of a table, that would stand alone at the foot
/// of a sheet begins the next one, and no row of a table is torn in two. Shapes  `document` has its page size
void breakBetweenSheets(QTextDocument& document);

}  // namespace app

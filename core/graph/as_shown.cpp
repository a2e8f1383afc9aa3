#include "graph/as_shown.h"

#include <utility>

#include "image/same_rows.h"

namespace oa {

std::shared_ptr<const RowMaker> asShown(std::shared_ptr<const RowMaker> rows) { return std::make_shared<SameRows>(std::move(rows)); }

}  // namespace oa

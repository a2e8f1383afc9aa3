// Rows and kernels whose time is counted as that of a step of a layer (base/spent.h).
#pragma once

#include <memory>

#include "base/spent.h"
#include "image/rows.h"

namespace oa {

/// Who the work of a step of a layer of a plan is counted for, and how many there are for so many layers.
Spent::Owner ownerOf(int layer, std::size_t step);
std::size_t ownersFor(std::size_t layers);

std::shared_ptr<const RowMaker> counted(std::shared_ptr<const RowMaker> rows, Spent::Owner owner);
std::unique_ptr<PointKernel> counted(std::unique_ptr<PointKernel> kernel, Spent::Owner owner);

}  // namespace oa

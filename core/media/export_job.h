// What the formats of an export have in common. Each format is one function in a file of its own.
#pragma once

#include "media/export.h"
#include "media/frame_source.h"
#include "render/renderer.h"

namespace oa {

Result<ExportResult> exportVideo(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportGif(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportPng(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);

/// A renderer for many frames. `opaque`: what lets something through is laid on black, as players would show it.
Renderer exportRenderer(const Scene& scene, const ExportSettings& settings, int width, int height, bool opaque);

void addNote(ExportResult& result, const std::string& note);

/// The message of an error names the file the user asked for, not its working name.
template <class T>
Result<T> named(Result<T> result, const std::string& path) {
  if (!result) result.error().where = path;
  return result;
}

}  // namespace oa

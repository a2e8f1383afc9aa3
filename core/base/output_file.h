// Writing a file or folder so that it appears whole or not at all, and where it may be written to.
#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "base/result.h"

namespace oa {

/// What stands where a file is to be written, links followed.
enum class PlaceKind {
  New,   ///< nothing yet
  File,  ///< a regular file, which would be replaced
  Folder,
  Stream,   ///< a pipe or a character device: written to as it comes, never replaced
  Refused,  ///< a disk or a socket
};

/// A name as the user gave it, and what it means: links are followed to their end, so that what they point to is written and
/// they stay what they are. `-` is standard output. Names are names: nothing in them is an address.
struct Place {
  std::string asked;
  std::string path;  ///< empty for standard output
  PlaceKind kind = PlaceKind::New;
};
Result<Place> placeOf(const std::string& asked);

/// The folders above a path that were missing, made; those that are still empty go again when this goes, unless kept.
class MadeFolders {
 public:
  static Result<MadeFolders> above(const std::string& path);
  MadeFolders() = default;
  MadeFolders(MadeFolders&& other) noexcept : made_(std::exchange(other.made_, {})) {}
  MadeFolders& operator=(MadeFolders&& other) noexcept {
    std::swap(made_, other.made_);
    return *this;
  }
  ~MadeFolders();
  void keep();

 private:
  std::vector<std::string> made_;  // outermost first
};

/// A file under a working name beside its target, or a stream. Unless kept, it is gone when this goes, with the folders that
/// were made for it. Working names are made exclusively and are locked while in use: what a killed run left for the same target
/// is recognised and cleared. A replaced file's mode is kept.
class OutputFile {
 public:
  /// `streams`: whether the format can be written to a pipe; else a pipe is refused with a sentence.
  static Result<OutputFile> begin(const std::string& asked, bool streams);
  OutputFile(OutputFile&&) noexcept;
  OutputFile& operator=(OutputFile&&) = delete;
  ~OutputFile();

  [[nodiscard]] int descriptor() const;
  [[nodiscard]] bool seekable() const;
  /// Bytes written so far; 0 for streams.
  [[nodiscard]] std::uint64_t size() const;
  /// The working name; empty for streams.
  [[nodiscard]] const std::string& workPath() const;
  /// The first write that failed is remembered, and keep() reports it.
  Status write(std::string_view bytes);
  /// Flushes to disk and gives the file its name; for a stream nothing but the report of what failed.
  Status keep();

 private:
  struct State;
  explicit OutputFile(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

/// A folder for unfinished files, beside or inside the place they are meant for; gone, with all that is in it, when this goes.
class WorkFolder {
 public:
  /// Inside `parent`, named after `target` as OutputFile names its files; what a killed run left for it is cleared.
  static Result<WorkFolder> begin(const std::string& parent, const std::string& target);
  WorkFolder(WorkFolder&&) noexcept;
  WorkFolder& operator=(WorkFolder&&) = delete;
  ~WorkFolder();
  [[nodiscard]] const std::string& path() const;
  /// Moves `names` from here into `folder`, replacing what is there, and takes `stale` away from it: all of that or, if one
  /// fails, nothing. An interrupt waits until it is over.
  Status moveInto(const std::string& folder, const std::vector<std::string>& names, const std::vector<std::string>& stale = {});
  /// Becomes `folder` itself, which must be missing or empty.
  Status become(const std::string& folder);

 private:
  struct State;
  explicit WorkFolder(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

/// Takes away all unfinished files and folders of this process and lets no other be finished: the last thing before it ends by
/// an interrupt. Waits for one that is just getting its name.
void abandonUnfinished();

}  // namespace oa

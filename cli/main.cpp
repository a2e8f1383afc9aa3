// over-again-cli: the core for scripts and tests.
#include <CLI/CLI.hpp>
#include <csignal>
#include <iostream>

#include "base/interrupt.h"
#include "commands.h"
#include "media/formats.h"

int main(int argc, char** argv) {
  const bool outputClosed = oa::guardStandardDescriptors();
  oa::cleanUpOnInterrupts();
  // A file that grows too large is reported like a full disk, not by ending the program.
  std::signal(SIGXFSZ, SIG_IGN);
  std::signal(SIGPIPE, SIG_IGN);
  oa::cli::Options o;
  CLI::App app{"Over Again: seamlessly looping animated backgrounds"};
  app.set_version_flag("--version", std::string("over-again-cli ") + OA_VERSION);
  app.require_subcommand(1);

  const auto withScene = [&](CLI::App* verb) {
    verb->add_option("SCENE", o.scene, "Scene file (*.overagain)")->required();
    verb->add_option("--set", o.assignments, "Change a value first: layers[0].noise.cell=90, frames=120, ...")
        ->type_name("PATH=VALUE")
        ->expected(1)
        ->take_all();
    verb->add_option("--palette", o.palette, "Recolour the scene first: a palette file (.gpl, .pal, .css, hex list) or a picture")
        ->type_name("FILE");
    verb->add_option("--threads", o.threads, "Threads to use; 0 for all")->check(CLI::Range(0, 256));
  };
  const auto withSize = [&](CLI::App* verb) {
    verb->add_option("--size", o.size, "Size of the frames, such as 1280x720; default: the scene's")->type_name("WxH");
    verb->add_option("--bits", o.bits, "Bits per channel, where the format has them: 8, 10 (H.265, AV1, ProRes) or 16 (PNG, APNG, FFV1)")
        ->check(CLI::IsMember({8, 10, 16}));
  };

  auto* render = app.add_subcommand("render", "Make a video, an animated picture or numbered pictures of the loop");
  withScene(render);
  withSize(render);
  render
      ->add_option(
          "-o,--output", o.output,
          "File (.mp4, .webm, .mov, .mkv, .gif, .webp, .apng, .html), folder, or name with %04d (.png); - for standard output. What is "
          "there is replaced without a question, and only by what is whole")
      ->required()
      ->type_name("OUT");
  std::string formats;
  for (const oa::FormatSpec& f : oa::exportFormats()) formats += (formats.empty() ? "" : ", ") + std::string(f.name);
  render->add_option("--format", o.format,
                     "Another one of the same ending (h265 in .mp4, av1 in .webm), or for a pipe or standard output: " + formats);
  render->add_option("--quality", o.quality, "Of movies and WebP, against the size of the file; quick: as good as good, sooner and larger")
      ->check(CLI::IsMember({"quick", "small", "good", "best"}));
  render->add_option("--megabytes", o.megabytes, "A movie of at most so many million bytes")->check(CLI::Range(0.0, 1e6));
  render->add_option("--kilobits", o.kilobits, "A movie of so many kilobits a second")->check(CLI::Range(0, 1000000));
  render
      ->add_option("--loops", o.loops,
                   "How many loops, one after the other; for GIF, WebP and APNG how often it is shown, which is for ever without")
      ->check(CLI::Range(1, 10000));
  render->add_option("--frames", o.range, "First and last frame, read modulo the loop: -1..0 is the joint. Pictures are numbered by frame")
      ->type_name("A..B");
  render->add_option("--dither", o.dither, "GIF only")->check(CLI::IsMember({"none", "pattern", "diffusion"}));
  render->add_flag("--alpha", o.alpha, "Write transparency, where the format has it, also where the scene has none");
  render
      ->add_option("--part", o.part,
                   "The loop alone, the whole run, or only what arrives or leaves; default: the run where anything does, else the loop. "
                   "--loops are then those of the run")
      ->check(CLI::IsMember({"loop", "run", "arrive", "leave"}));
  render
      ->add_option("--table", o.table,
                   "A title for each row: fields in words, {name}, are filled from the columns of a CSV file; OUT names the files, such as "
                   "'{name}.mp4'. Rows that cannot be made are named, and the others go on")
      ->type_name("ROWS.csv");
  render->add_flag("--poster", o.poster, "Of movies: the first frame as a picture beside the file");
  render->add_flag("--mute", o.mute, "Without the scene's sound");
  render->add_flag("--quiet", o.quiet, "Say nothing on success");
  render->add_flag("--stats", o.stats, "Say afterwards, on standard error, what took how long, and how much memory");

  auto* still = app.add_subcommand("still", "Make a PNG picture of one frame");
  withScene(still);
  withSize(still);
  still->add_option("--frame", o.frame, "Frame, read modulo the loop; default: the first")->type_name("K");
  still->add_option("--part", o.part, "Count the frame from the beginning of the run instead of the loop")
      ->check(CLI::IsMember({"loop", "run"}));
  still->add_option("-o,--output", o.output, "PNG file, or - for standard output; what is there is replaced")
      ->required()
      ->type_name("OUT.png");

  auto* info = app.add_subcommand("info", "Say what a scene holds");
  withScene(info);
  info->add_flag("--json", o.json, "As JSON");

  auto* describe = app.add_subcommand("describe", "Say what a step does and which parameters it has");
  describe->add_option("STEP", o.step, "Id of a step; all of them without");
  describe->add_flag("--json", o.json, "As JSON");
  describe->add_flag("--schema", o.schema, "The JSON Schema of scene files");

  auto* check = app.add_subcommand("check", "Measure whether the loop closes; fails if it does not");
  withScene(check);
  check->add_flag("--json", o.json, "As JSON");

  auto* profile = app.add_subcommand("profile", "Say where a frame's time goes, by layer and step");
  withScene(profile);
  withSize(profile);
  profile->add_flag("--json", o.json, "As JSON");

  auto* save = app.add_subcommand("save", "Write a scene as this program would, with values changed by --set");
  withScene(save);
  save->add_option("-o,--output", o.output, "Scene file, or - for standard output; what is there is replaced")
      ->required()
      ->type_name("OUT");

  CLI11_PARSE(app, argc, argv);

  oa::Status status;
  if (*render) status = oa::cli::render(o);
  if (*still) status = oa::cli::still(o);
  if (*info) status = oa::cli::info(o);
  if (*describe) status = oa::cli::describe(o);
  if (*check) status = oa::cli::check(o);
  if (*save) status = oa::cli::save(o);
  if (*profile) status = oa::cli::profile(o);
  std::cout.flush();
  // A file was made all the same where only the words about it had nowhere to go.
  const bool words = *info || *describe || *check || *profile;
  if (status && words && (!std::cout || outputClosed)) status = oa::fail("the output could not be written");
  if (status) return 0;
  std::cerr << "over-again-cli: " << status.error().sentence() << "\n";
  return 1;
}

#include "io/git_versions.h"

#include <memory>
#include <optional>

#include <git2.h>

#include "io/level_file.h"
#include "io/project_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

/// The library counts who uses it.
struct GitLibrary {
    GitLibrary() { git_libgit2_init(); }
    ~GitLibrary() { git_libgit2_shutdown(); }
};

template <class Thing, void (*free)(Thing*)> struct Freed {
    void operator()(Thing* thing) const { free(thing); }
};
template <class Thing, void (*free)(Thing*)> using Owned = std::unique_ptr<Thing, Freed<Thing, free>>;
using GitRepository = Owned<git_repository, git_repository_free>;
using GitCommit = Owned<git_commit, git_commit_free>;
using GitTree = Owned<git_tree, git_tree_free>;
using GitEntry = Owned<git_tree_entry, git_tree_entry_free>;

tl::unexpected<Error> git_failed(const fs::path& file) {
    const git_error* why = git_error_last();
    return fail("git.read", file.string(), why && why->message ? why->message : "git's files cannot be read");
}

struct PlaceInGit {
    GitRepository repository;
    std::string path; ///< in the repository
};

/// The repository that holds a file; nothing where none does.
std::optional<PlaceInGit> place_in_git(const fs::path& file) {
    std::error_code error;
    const fs::path whole = fs::weakly_canonical(file, error);
    git_repository* found = nullptr;
    if (error || git_repository_open_ext(&found, whole.parent_path().c_str(), 0, nullptr) != 0) return {};
    PlaceInGit out{GitRepository(found), {}};
    const char* root = git_repository_workdir(found);
    if (!root) return {};
    const fs::path inside = whole.lexically_relative(fs::weakly_canonical(root, error));
    if (inside.empty() || *inside.begin() == "..") return {};
    out.path = inside.generic_string();
    return out;
}

/// What a path is in a commit; all zeros where it is not there.
git_oid content_in(git_commit* commit, const std::string& path) {
    git_oid out{};
    git_tree* tree = nullptr;
    if (git_commit_tree(&tree, commit) != 0) return out;
    const GitTree owned(tree);
    git_tree_entry* entry = nullptr;
    if (git_tree_entry_bypath(&entry, tree, path.c_str()) != 0) return out;
    const GitEntry kept(entry);
    return *git_tree_entry_id(entry);
}

} // namespace

Result<std::vector<GitVersion>> git_versions_of(const fs::path& file, size_t most) {
    const GitLibrary library;
    std::vector<GitVersion> out;
    const auto place = place_in_git(file);
    if (!place) return out;
    git_revwalk* walk = nullptr;
    if (git_revwalk_new(&walk, place->repository.get()) != 0) return git_failed(file);
    const Owned<git_revwalk, git_revwalk_free> owned(walk);
    git_revwalk_sorting(walk, GIT_SORT_TOPOLOGICAL | GIT_SORT_TIME);
    if (git_revwalk_push_head(walk) != 0) return out; // nothing was committed yet
    git_oid id;
    while (out.size() < most && git_revwalk_next(&id, walk) == 0) {
        git_commit* commit = nullptr;
        if (git_commit_lookup(&commit, place->repository.get(), &id) != 0) return git_failed(file);
        const GitCommit kept(commit);
        const git_oid now = content_in(commit, place->path);
        if (git_oid_is_zero(&now)) continue;
        bool same = git_commit_parentcount(commit) > 0;
        for (unsigned i = 0; i < git_commit_parentcount(commit); ++i) {
            git_commit* parent = nullptr;
            if (git_commit_parent(&parent, commit, i) != 0) return git_failed(file);
            const GitCommit before(parent);
            const git_oid was = content_in(parent, place->path);
            same = same && git_oid_equal(&was, &now);
        }
        if (same) continue;
        char text[GIT_OID_HEXSZ + 1];
        git_oid_tostr(text, sizeof text, &id);
        const git_signature* author = git_commit_author(commit);
        const char* summary = git_commit_summary(commit);
        out.push_back({text, git_commit_time(commit), author ? author->name : "", summary ? summary : ""});
    }
    return out;
}

Result<std::string> file_in_git(const fs::path& file, const std::string& version) {
    const GitLibrary library;
    const auto place = place_in_git(file);
    if (!place) return fail("git.none", file.string(), "The file is in no git repository.");
    git_object* found = nullptr;
    if (git_revparse_single(&found, place->repository.get(), (version + "^{commit}").c_str()) != 0)
        return fail("git.version", version, "git knows no such version.");
    const Owned<git_object, git_object_free> owned(found);
    const git_oid content = content_in(reinterpret_cast<git_commit*>(found), place->path);
    git_blob* blob = nullptr;
    if (git_oid_is_zero(&content) || git_blob_lookup(&blob, place->repository.get(), &content) != 0)
        return fail("git.version", file.string(), "The file is not in that version.");
    const Owned<git_blob, git_blob_free> kept(blob);
    return std::string(static_cast<const char*>(git_blob_rawcontent(blob)), size_t(git_blob_rawsize(blob)));
}

Result<LevelInGit> level_in_git(const fs::path& file, const std::string& version, const Project& now) {
    const auto text = file_in_git(file, version);
    if (!text) return tl::unexpected(text.error());
    auto level = level_from_text(*text, file.string() + " (" + version + ")");
    if (!level) return tl::unexpected(level.error());
    LevelInGit out{now, std::move(*level)};
    if (const fs::path folder = project_folder_of(file); !folder.empty())
        if (const auto then = file_in_git(folder / "project.json", version))
            if (const auto project = project_from_text(*then, "project.json")) {
                out.project.characters = project->characters;
                out.project.easy_pct = project->easy_pct, out.project.fair_pct = project->fair_pct;
                out.project.rule_sets = project->rule_sets, out.project.rules = project->rules;
            }
    out.level = with_files_of(out.project, std::move(out.level));
    return out;
}

} // namespace rubble::io

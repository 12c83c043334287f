#include "io/text_file.h"

#include <cerrno>
#include <cstring>
#include <vector>

#include <fcntl.h>
#include <unistd.h>

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr uintmax_t k_largest_file = uintmax_t(256) << 20;
/// Before the number of the process, in the names of files that are being written.
constexpr const char* k_part = ".part";

/// Closes on the way out.
struct Descriptor {
    int fd;
    ~Descriptor() {
        if (fd >= 0) ::close(fd);
    }
};

tl::unexpected<Error> write_error(const fs::path& path, int error) {
    return fail("file.write", path.string(),
                std::string("Could not be written (") + std::strerror(error) +
                    "). The old file is unchanged; save somewhere else or free some space.");
}

/// Whether a process with that number runs on this machine.
bool runs(const std::string& process) {
    std::error_code error;
    return fs::exists(fs::path("/proc") / process, error);
}

/// What programs left that ended while they wrote: files named as ours, of processes that are gone.
void remove_left_parts(const fs::path& path) {
    std::error_code error;
    const std::string begins = path.filename().string() + k_part;
    for (const auto& entry : fs::directory_iterator(path.parent_path(), error)) {
        const std::string name = entry.path().filename().string();
        if (!name.starts_with(begins)) continue;
        const std::string process = name.substr(begins.size());
        const bool number = !process.empty() && process.find_first_not_of("0123456789") == std::string::npos;
        std::error_code ignored;
        if (number && !runs(process)) fs::remove(entry.path(), ignored);
    }
}

/// What a name stands for, through links that lead on, also to nothing yet.
fs::path resolved(const fs::path& path) {
    fs::path at = fs::absolute(path);
    std::error_code error;
    constexpr int k_most_links = 40; // as the kernel
    for (int i = 0; i < k_most_links && fs::is_symlink(fs::symlink_status(at, error)); ++i) {
        const fs::path to = fs::read_symlink(at, error);
        if (error) break;
        at = to.is_absolute() ? to : at.parent_path() / to;
    }
    return at;
}

bool write_all(int fd, const std::string& content) {
    size_t done = 0;
    while (done < content.size()) {
        const ssize_t n = ::write(fd, content.data() + done, content.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += size_t(n);
    }
    return true;
}

/// Devices and pipes are written to; nothing takes their place.
Result<void> write_through(const fs::path& path, const std::string& content) {
    const Descriptor file{::open(path.c_str(), O_WRONLY | O_CLOEXEC)};
    if (file.fd < 0 || !write_all(file.fd, content)) return write_error(path, errno);
    return {};
}

} // namespace

Result<std::string> read_file(const fs::path& path) {
    std::error_code error;
    const auto status = fs::status(path, error);
    if (error || !fs::exists(status)) return fail("file.missing", path.string(), "There is no such file.");
    if (fs::is_directory(status))
        return fail("file.folder", path.string(), "Expected a file, found a folder.");
    const auto size = fs::file_size(path, error);
    if (!error && size > k_largest_file)
        return fail("file.size", path.string(), "The file is larger than 256 MB.");
    // By pieces: a device may have no end.
    const Descriptor file{::open(path.c_str(), O_RDONLY | O_CLOEXEC)};
    if (file.fd < 0)
        return fail("file.read", path.string(), "The file could not be read. Check its permissions.");
    std::string text;
    std::vector<char> piece(size_t(1) << 20);
    for (;;) {
        const ssize_t n = ::read(file.fd, piece.data(), piece.size());
        if (n < 0 && errno == EINTR) continue;
        if (n < 0)
            return fail("file.read", path.string(), "The file could not be read. Check its permissions.");
        if (n == 0) return text;
        text.append(piece.data(), size_t(n));
        if (text.size() > k_largest_file)
            return fail("file.size", path.string(), "The file is larger than 256 MB.");
    }
}

Result<void> write_file(const fs::path& named, const std::string& content) {
    const fs::path path = resolved(named);
    std::error_code ignored;
    const auto status = fs::status(path, ignored);
    if (fs::is_directory(status)) return write_error(path, EISDIR);
    if (fs::exists(status) && !fs::is_regular_file(status)) return write_through(path, content);
    fs::create_directories(path.parent_path(), ignored);
    remove_left_parts(path);
    const fs::path beside = path.string() + k_part + std::to_string(::getpid());
    {
        const mode_t mode = fs::exists(status) ? mode_t(status.permissions()) & 0777 : 0644;
        const Descriptor file{::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, mode)};
        if (file.fd < 0) return write_error(path, errno);
        if (!write_all(file.fd, content) || ::fsync(file.fd) != 0) {
            const int error = errno;
            ::unlink(beside.c_str());
            return write_error(path, error);
        }
    }
    if (::rename(beside.c_str(), path.c_str()) != 0) {
        const int error = errno;
        ::unlink(beside.c_str());
        return write_error(path, error);
    }
    const Descriptor parent{::open(path.parent_path().c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)};
    if (parent.fd >= 0) ::fsync(parent.fd); // the name itself; a file system that cannot is no error
    return {};
}

} // namespace rubble::io

#include "io/text_file.h"

#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>

#include <fcntl.h>
#include <unistd.h>

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr uintmax_t k_largest_file = uintmax_t(256) << 20;

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

bool write_all(int fd, const std::string& content) {
    size_t done = 0;
    while (done < content.size()) {
        const ssize_t n = ::write(fd, content.data() + done, content.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += size_t(n);
    }
    return ::fsync(fd) == 0;
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
    std::ifstream in(path, std::ios::binary);
    std::ostringstream text;
    text << in.rdbuf();
    if (!in) return fail("file.read", path.string(), "The file could not be read. Check its permissions.");
    return text.str();
}

Result<void> write_file(const fs::path& path, const std::string& content) {
    std::error_code ignored;
    if (path.has_parent_path()) fs::create_directories(path.parent_path(), ignored);
    const fs::path beside = path.string() + ".part" + std::to_string(::getpid());
    {
        const Descriptor file{::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644)};
        if (file.fd < 0) return write_error(path, errno);
        if (!write_all(file.fd, content)) {
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
    const fs::path folder = path.has_parent_path() ? path.parent_path() : fs::path(".");
    const Descriptor parent{::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)};
    if (parent.fd >= 0) ::fsync(parent.fd); // the name itself; a file system that cannot is no error
    return {};
}

} // namespace rubble::io

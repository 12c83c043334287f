#include "io/picture_file.h"

#include <new>

#include <png.h>

#include "io/text_file.h"

namespace rubble::io {

namespace {

/// Frees what libpng holds for a picture, however reading ends.
struct PngImage : png_image {
    PngImage() : png_image{} { version = PNG_IMAGE_VERSION; }
    ~PngImage() { png_image_free(this); }
    PngImage(const PngImage&) = delete;
    PngImage& operator=(const PngImage&) = delete;
};

} // namespace

Result<Picture> picture_from_png(const std::string& bytes, const std::string& place) {
    PngImage image;
    const auto damaged = [&] {
        return fail("picture.damaged", place,
                    std::string("No PNG that can be read (") + image.message +
                        "). Export it again, or restore the file.");
    };
    if (!png_image_begin_read_from_memory(&image, bytes.data(), bytes.size())) return damaged();
    if (image.width > uint32_t(k_widest_picture) || image.height > uint32_t(k_widest_picture) ||
        int64_t(image.width) * image.height > k_most_pixels)
        return fail("picture.size", place,
                    "The picture is " + std::to_string(image.width) + " x " + std::to_string(image.height) +
                        " pixels, too large to be held in memory. Part it into several.");
    image.format = PNG_FORMAT_RGBA;
    Picture picture;
    picture.width = int(image.width), picture.height = int(image.height);
    try {
        picture.rgba.resize(PNG_IMAGE_SIZE(image));
    } catch (const std::bad_alloc&) {
        return fail("picture.size", place,
                    "There is not enough memory for the picture. Part it into several.");
    }
    if (!png_image_finish_read(&image, nullptr, picture.rgba.data(), 0, nullptr)) return damaged();
    return picture;
}

Result<Picture> load_picture(const std::filesystem::path& path) {
    const auto bytes = read_file(path);
    if (!bytes) return tl::unexpected(bytes.error());
    return picture_from_png(*bytes, path.string());
}

Result<std::string> png_of(const Picture& picture) {
    PngImage image;
    image.width = uint32_t(picture.width), image.height = uint32_t(picture.height);
    image.format = PNG_FORMAT_RGBA;
    png_alloc_size_t size = PNG_IMAGE_PNG_SIZE_MAX(image);
    std::string bytes(size, '\0');
    if (!png_image_write_to_memory(&image, bytes.data(), &size, 0, picture.rgba.data(), 0, nullptr))
        return fail("picture.write", "",
                    std::string("The picture could not be made (") + image.message + ").");
    bytes.resize(size);
    return bytes;
}

Result<void> save_picture(const Picture& picture, const std::filesystem::path& path) {
    const auto bytes = png_of(picture);
    if (!bytes) return tl::unexpected(bytes.error());
    return write_file(path, *bytes);
}

} // namespace rubble::io

// Reads a QR code from a picture, PNG or SVG: by jsQR, which shares nothing with what draws ours.
import { createCanvas, loadImage } from "@napi-rs/canvas";
import jsQR from "jsqr";

const SIZE = 512;
const image = await loadImage(process.argv[2]);
const context = createCanvas(SIZE, SIZE).getContext("2d");
context.fillStyle = "white";
context.fillRect(0, 0, SIZE, SIZE);
context.drawImage(image, 0, 0, SIZE, SIZE);
console.log(jsQR(context.getImageData(0, 0, SIZE, SIZE).data, SIZE, SIZE)?.data ?? "");

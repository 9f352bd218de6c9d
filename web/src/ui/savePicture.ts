import { saveFile } from "./saveFile";

/** What a drawing is painted by; all else of its look comes from the page. */
const PAINT = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "opacity",
  "font-size",
  "font-family",
  "font-weight",
  "text-anchor",
];

const SVG = "http://www.w3.org/2000/svg";

/** All drawings and captions of a part of the page as one drawing that needs no page. */
export function pictureOf(part: HTMLElement): SVGSVGElement {
  const box = part.getBoundingClientRect();
  const whole = document.createElementNS(SVG, "svg");
  const size = { width: Math.ceil(box.width), height: Math.ceil(box.height) };
  whole.setAttribute("xmlns", SVG);
  whole.setAttribute("width", `${size.width}`);
  whole.setAttribute("height", `${size.height}`);
  whole.setAttribute("viewBox", `0 0 ${size.width} ${size.height}`);
  const page = document.createElementNS(SVG, "rect");
  page.setAttribute("width", "100%");
  page.setAttribute("height", "100%");
  page.setAttribute("fill", getComputedStyle(document.body).backgroundColor);
  whole.append(page);
  for (const drawing of part.querySelectorAll("svg")) {
    const at = drawing.getBoundingClientRect();
    const copy = drawing.cloneNode(true) as SVGSVGElement;
    painted(drawing, copy);
    copy.setAttribute("x", `${at.left - box.left}`);
    copy.setAttribute("y", `${at.top - box.top}`);
    copy.setAttribute("width", `${at.width}`);
    copy.setAttribute("height", `${at.height}`);
    whole.append(copy);
  }
  for (const words of part.querySelectorAll<HTMLElement>("[data-in-picture]")) {
    const at = words.getBoundingClientRect();
    const look = getComputedStyle(words);
    const text = document.createElementNS(SVG, "text");
    text.setAttribute("x", `${at.left - box.left}`);
    text.setAttribute("y", `${at.bottom - box.top - 4}`);
    text.setAttribute("fill", look.color);
    text.setAttribute("font-size", look.fontSize);
    text.setAttribute("font-family", look.fontFamily);
    text.textContent = words.textContent;
    whole.append(text);
  }
  return whole;
}

function painted(from: Element, to: Element): void {
  const look = getComputedStyle(from);
  to.removeAttribute("class");
  for (const name of PAINT) to.setAttribute(name, look.getPropertyValue(name));
  for (let at = 0; at < from.children.length; at += 1)
    painted(from.children[at] as Element, to.children[at] as Element);
}

const SHARP = 2;

/** Hands a part of the page to the browser as a picture to keep. */
export async function savePicture(
  part: HTMLElement,
  name: string,
  kind: "svg" | "png",
): Promise<void> {
  const drawing = pictureOf(part);
  const text = new XMLSerializer().serializeToString(drawing);
  if (kind === "svg") {
    saveFile(`${name}.svg`, text, "image/svg+xml");
    return;
  }
  const image = new Image();
  // Said whole in its address, as the page may load nothing but its own.
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = drawing.width.baseVal.value * SHARP;
  canvas.height = drawing.height.baseVal.value * SHARP;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
  if (blob) saveFile(`${name}.png`, blob, "image/png");
}

import { inBase64 } from '../api/base64'
import { Refusal, type Schemas } from '../api/client'

/** As the server has it (internal/app/upload.go): what it would refuse is not sent at all. */
export const mostBytes = 4 << 20

/** From here on a photo is made smaller before it is sent; a drawing only if it couldn't be sent at all. */
const largePhoto = 1 << 20
const longestSide = 2400

/** The file as it is sent: a large photo with fewer points. Whatever can't be made smaller stays as it is. */
export async function fitting(file: File): Promise<File> {
  const photo = file.type === 'image/jpeg' && file.size > largePhoto
  if (!photo && !(file.type === 'image/png' && file.size > mostBytes)) return file
  try {
    const smaller = await inPoints(file)
    return smaller && smaller.size < file.size ? smaller : file
  } catch {
    return file // not a picture that this browser can read; the server says what it thinks of it
  }
}

async function inPoints(file: File): Promise<File | null> {
  const picture = await createImageBitmap(file) // turned upright, as the camera says
  const scale = Math.min(1, longestSide / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(picture.width * scale)
  canvas.height = Math.round(picture.height * scale)
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.85))
  return made && new File([made], file.name.replace(/\.(png|jpe?g)$/i, '.jpg'), { type: made.type })
}

/** Sends a file that a type's form asks for. share is told how much has gone, from 0 to 1, which fetch can't tell. */
export async function sendFile(address: string, file: File, share: (gone: number) => void): Promise<Schemas['Upload']> {
  const body = JSON.stringify({ name: file.name, data: await inBase64(file) })
  const request = new XMLHttpRequest()
  return new Promise((resolve, reject) => {
    const away = () => reject(new Refusal(0, { code: 'away', sentence: 'Corrim did not answer.' }))
    request.upload.onprogress = ({ loaded, total }) => share(total > 0 ? loaded / total : 0)
    request.onerror = away
    request.onload = () => {
      try {
        const answer = JSON.parse(request.responseText)
        if (request.status < 300) resolve(answer)
        else reject(new Refusal(request.status, { ...answer, sentence: answer.detail }, answer.fields))
      } catch {
        away()
      }
    }
    request.open('POST', address)
    request.setRequestHeader('Content-Type', 'application/json')
    request.send(body)
  })
}

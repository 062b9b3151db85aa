import Link from 'next/link'

export default function NotFound() {
  return (
    <main style={{ padding: 24 }}>
      <h1>There is nothing at this address.</h1>
      <p>
        <Link href="/">Go to the shoots</Link>
      </p>
    </main>
  )
}

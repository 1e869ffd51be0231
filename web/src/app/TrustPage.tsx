import { text } from "../text";

// TrustPage says how a tablet comes to trust the server of the house, and whether it does.
export function TrustPage() {
  return (
    <main className="entrance">
      <section className="card-enamel trust">
        <h1>{text.access.trustTitle}</h1>
        <p role="status">{window.isSecureContext ? text.access.trusted : text.access.untrusted}</p>
        <p>
          <a className="btn btn-primary" href="/house.crt">
            {text.access.fetchCertificate}
          </a>
        </p>
        {text.access.trustSteps.map(([on, steps]) => (
          <div key={on}>
            <h2>{on}</h2>
            <p>{steps}</p>
          </div>
        ))}
        <p className="quiet">{text.access.trustCaution}</p>
      </section>
    </main>
  );
}
